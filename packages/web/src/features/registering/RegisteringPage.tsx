import { api, type DocumentPage, type TypeInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { todayIn } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { type AboutValues, aboutOf, NOTHING_SAID } from '../document/about.ts';
import { toValues } from '../document/metadataValues.ts';
import { type Arrived, beginWith, beginWithDriveFile } from '../intake/begin.ts';
import type { Common } from './common.ts';
import { ManyFiles } from './ManyFiles.tsx';
import { OneDocument } from './OneDocument.tsx';
import { useFirstMetadata } from './useFirstMetadata.ts';
import { wording } from './wording.ts';

/** Registering: one document, or many files dropped at once. The type comes first, then only what it asks. */
export const RegisteringPage = () => {
  const [params] = useSearchParams();
  const like = params.get('like');
  const [incomingFileId, deskId] = [params.get('incomingFile'), params.get('desk')];
  const begins = incomingFileId ?? deskId;
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const arrived = useQuery({
    queryKey: ['intake', 'begin', begins],
    queryFn: () => (incomingFileId ? beginWith(incomingFileId) : beginWithDriveFile(deskId ?? '')),
    enabled: begins !== null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const model = useQuery({ ...ask(api.documents.page, { params: { document: like ?? '' } }), enabled: like !== null });
  if (
    types.isPending ||
    folders.isPending ||
    (like !== null && model.isPending) ||
    (begins !== null && arrived.isPending)
  )
    return <Loading what={wording.typesAndFolders} />;
  const error = types.error ?? folders.error ?? model.error ?? arrived.error;
  if (error || !types.data || !folders.data) return <Failed error={error ?? new Error()} />;
  if (!folders.data.folders.some((folder) => folder.mayAuthor))
    return <Empty title={wording.youMayNotRegisterDocuments}>{wording.youNeedTheRightAuthorOn}</Empty>;
  return (
    <Registering
      key={like ?? begins ?? ''}
      types={types.data.types}
      recent={types.data.recent}
      folders={folders.data.folders}
      model={model.data}
      arrived={arrived.data}
    />
  );
};

const Registering = ({
  types,
  recent,
  folders,
  model,
  arrived,
}: Pick<Common, 'types' | 'recent' | 'folders'> & {
  model: DocumentPage | undefined;
  arrived: Arrived | undefined;
}) => {
  const me = useMe();
  const [params] = useSearchParams();
  const [typeId, setTypeId] = useState(
    model?.type.id ?? arrived?.proposal.typeId ?? types.find((type) => type.code === params.get('type'))?.id ?? '',
  );
  const [folderId, setFolderId] = useState(
    model?.folder.id ?? arrived?.proposal.folderId ?? params.get('folder') ?? '',
  );
  const [owner, setOwner] = useState([model?.owner ?? { id: me.id, name: me.name }]);
  const [departmentId, setDepartmentId] = useState<string | null>(null);
  const [keywords, setKeywords] = useState(model?.keywords ?? []);
  const [about, setAbout] = useState<AboutValues>(() =>
    model ? { ...aboutOf(model), titles: [] } : { ...NOTHING_SAID, parent: params.get('under') ?? '' },
  );
  const parent = useQuery({
    ...ask(api.documents.page, { params: { document: about.parent } }),
    enabled: about.parent !== '',
  });
  const [parentSeen, setParentSeen] = useState('');
  const [files, setFiles] = useState<File[]>([]);
  const metadata = useFirstMetadata();
  const [begun, setBegun] = useState(false);
  const type = types.find((one) => one.id === typeId);
  const begin = (chosen: TypeInfo, inFolder = folderId, under = parent.data?.metadata ?? {}) =>
    metadata.begin(chosen, {
      today: todayIn(me.organisation.zone),
      me: me.id,
      folder: folders.find((one) => one.id === inFolder)?.metadata ?? {},
      parent: under,
    });
  if (!begun && type) {
    // A type or a model that came with the address fills its metadata once, before the first picture.
    setBegun(true);
    begin(type);
    if (model) metadata.fill(toValues(model.metadata), wording.fromNumber(model.number));
    if (arrived) metadata.fill(toValues(arrived.proposal.metadata), wording.fromTheText);
  }
  if (type && parent.data && parent.data.id !== parentSeen) {
    // A parent that was chosen fills what begins with its metadata, once.
    setParentSeen(parent.data.id);
    begin(type);
  }
  const common: Common = {
    types,
    recent,
    folders,
    type,
    setType: (id) => {
      setTypeId(id);
      setBegun(true);
      const chosen = types.find((one) => one.id === id);
      if (chosen) begin(chosen);
    },
    folderId,
    setFolderId: (id) => {
      setFolderId(id);
      if (type) begin(type, id);
    },
    metadata,
    owner,
    setOwner,
    departmentId,
    setDepartmentId,
    keywords,
    setKeywords,
    about,
    setAbout,
  };
  return files.length > 0 ? (
    <ManyFiles common={common} files={files} leave={() => setFiles([])} />
  ) : (
    <OneDocument common={common} model={model?.number} several={setFiles} start={arrived?.start} />
  );
};
