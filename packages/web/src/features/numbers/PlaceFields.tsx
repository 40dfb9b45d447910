import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

/** Where numbers count: what would be registered, where it would be filed, and the metadata that the number contains. */
export type Place = { typeId: string; folderId: string; metadata: Record<string, string> };
export const NO_PLACE: Place = { typeId: '', folderId: '', metadata: {} };

export const PlaceFields = ({ value, onChange }: { value: Place; onChange: (place: Place) => void }) => {
  const types = useQuery(ask(api.documents.types));
  const folders = useQuery(ask(api.documents.folders));
  const type = types.data?.types.find((t) => t.id === value.typeId);
  const keys = [...(type?.numbering ?? '').matchAll(/\{field:([^}]+)\}/g)].map((match) => match[1] ?? '');
  return (
    <>
      <Select
        label={wording.type}
        required
        value={value.typeId}
        onChange={(text) => onChange({ ...value, typeId: text, metadata: {} })}
        hint={type?.numbering && <span className="num">{type.numbering}</span>}
      >
        <option value="">{wording.chooseWhatWillBeNumbered}</option>
        {types.data?.types
          .filter((t) => t.numbering)
          .map((t) => (
            <option key={t.id} value={t.id}>
              {t.code} {t.name}
            </option>
          ))}
      </Select>
      <Select
        label={wording.folder}
        required
        value={value.folderId}
        onChange={(text) => onChange({ ...value, folderId: text })}
        hint={wording.itsAreaIsPartOfSome}
      >
        <option value="">{wording.chooseTheFolder}</option>
        {folders.data?.folders.map((folder) => (
          <option key={folder.id} value={folder.id}>
            {folder.parentId ? `${folder.area} / ${folder.name}` : folder.name}
          </option>
        ))}
      </Select>
      {keys.map((key) => {
        const field = type?.fields.find((f) => f.key === key);
        return (
          <Select
            key={key}
            label={field?.label ?? key}
            required
            value={value.metadata[key] ?? ''}
            onChange={(text) => onChange({ ...value, metadata: { ...value.metadata, [key]: text } })}
          >
            <option value="">–</option>
            {field?.options?.map((option) => (
              <option key={option.code} value={option.code}>
                {option.text}
              </option>
            ))}
          </Select>
        );
      })}
    </>
  );
};
