import { api, type Upload } from '@kanonos/contract';
import { metadataFromNamed } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ask, call, Problem, refreshAll } from '../../app/client.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { toast } from '../../ui/toast.ts';
import { toAbout } from '../document/about.ts';
import { toMetadata, toValues } from '../document/metadataValues.ts';
import { EMPTY_ROW, type OriginalRow, toFacts } from '../document/originals.ts';
import { useFileMatch } from '../document/useFileMatch.ts';
import type { Common, Start } from './common.ts';
import { wording } from './wording.ts';

export type DocumentDraft = ReturnType<typeof useDocumentDraft>;

/** What is typed for one document that is being registered, how it would be registered, and the registering itself. */
export const useDocumentDraft = (
  common: Common,
  start: Start | undefined,
  /** What the address names, as for a document that was ordered. */
  given: { title: string; number: string } = { title: '', number: '' },
) => {
  const { type, folderId, metadata } = common;
  const navigate = useNavigate();
  const [title, setTitle] = useState(start?.title ?? given.title);
  const [upload, setUpload] = useState<Upload | null>(start?.upload ?? null);
  const [templateId, setTemplateId] = useState('');
  const templates = useQuery({ ...ask(api.templates.choices), staleTime: 60_000 });
  const ofType = templates.data?.templates.filter((one) => one.typeId === type?.id) ?? [];
  const template = upload ? undefined : ofType.find((one) => one.id === templateId);
  const [original, setOriginal] = useState<OriginalRow>(EMPTY_ROW);
  const [more, setMore] = useState<OriginalRow[]>([]);
  const [summary, setSummary] = useState('');
  const [note, setNote] = useState('');
  const [number, setNumber] = useState(
    type && !type.numbering
      ? (start?.number ?? given.number)
      : type?.reserved.includes(given.number)
        ? given.number
        : '',
  );
  const [label, setLabel] = useState(start?.label ?? '');
  const [error, setError] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const [key, setKey] = useState(() => crypto.randomUUID());
  const request = useMemo(
    () => ({
      typeId: type?.id ?? '',
      folderId: type?.filing ? null : folderId || null,
      title: title.slice(0, 500),
      metadata: type ? toMetadata(type.fields, metadata.values) : {},
      extension: (upload?.name ?? template?.fileName)?.split('.').at(-1)?.slice(0, 20) ?? 'docx',
      number: number || null,
      label: type?.labelGivenBySupplier ? label || null : null,
      parent: common.about.parent || null,
      ownerId: common.owner[0]?.id ?? null,
      departmentId: common.departmentId,
    }),
    [
      folderId,
      title,
      type,
      metadata.values,
      upload,
      template,
      number,
      label,
      common.about.parent,
      common.owner,
      common.departmentId,
    ],
  );
  const deferred = useDeferredValue(request);
  const preview = useQuery({
    queryKey: ['documents', 'previewRegistration', deferred],
    queryFn: ({ signal }) => call(api.documents.preview, { body: deferred, signal }),
    enabled: Boolean(deferred.typeId && (deferred.folderId || type?.filing)),
    placeholderData: (before) => before,
  });
  const known = useFileMatch(upload);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a file says what it says once, and again for another type
  useEffect(() => {
    if (!known) return;
    if (known.title) setTitle((before) => before || known.title);
    if (known.keywords.length && common.keywords.length === 0) common.setKeywords(known.keywords);
    if (type) metadata.fill(toValues(metadataFromNamed(type.fields, known.named)), wording.fromTheFile);
  }, [known, type?.id]);
  const missing = [
    !type && wording.aType,
    !folderId && !type?.filing && wording.aFolder,
    !title.trim() && wording.aTitle,
    !upload && !template && wording.aFileAnAddressALocation,
    type?.underParent && !common.about.parent && wording.aParent,
    more.some((row) => !row.upload) && wording.theFilesOfTheOtherOriginals,
  ].filter(Boolean);
  const registered = useRef(false);
  // What was typed by hand or brought; what the address and folder fill in comes back by itself.
  const isBegun = () =>
    !registered.current &&
    (upload !== (start?.upload ?? null) ||
      title !== (start?.title ?? '') ||
      summary !== '' ||
      note !== '' ||
      more.length > 0 ||
      template !== undefined);
  const register = async (another: boolean) => {
    if (!type || !(upload || template)) return;
    setBusy(true);
    setError(null);
    try {
      const done = await call(api.documents.register, {
        key,
        body: {
          typeId: type.id,
          folderId: type.filing ? null : folderId,
          title,
          metadata: toMetadata(type.fields, metadata.values),
          uploadId: upload?.id ?? null,
          templateId: template?.id ?? null,
          about: toFacts(original),
          more: more.map((row) => ({ ...toFacts(row), uploadId: row.upload?.id ?? '' })),
          ...toAbout(common.about),
          incomingFileId: start?.incomingFileId ?? null,
          summary,
          note,
          ownerId: common.owner[0]?.id ?? null,
          departmentId: common.departmentId,
          number: type.numbering ? number || null : number,
          label: type.labelGivenBySupplier ? label : null,
          keywords: common.keywords,
        },
      });
      toast.success(`${done.number} registered${done.label ? wording.revisionDone(done.label) : ''}.`);
      setKey(crypto.randomUUID());
      registered.current = !another;
      await refreshAll();
      if (start) navigate(start.incomingFileId ? '/intake' : '/checked-out');
      else if (another) {
        setTitle('');
        setUpload(null);
        setMore([]);
        setNumber('');
      } else navigate(documentAddress(done.number));
    } catch (failure) {
      setError(failure as Error);
    } finally {
      setBusy(false);
    }
  };
  const errorFor = (field: string) =>
    error instanceof Problem
      ? error.document.refusals.find((r) => r.field?.toLowerCase() === field.toLowerCase())?.detail
      : undefined;
  return {
    title,
    setTitle,
    upload,
    setUpload,
    templates: ofType,
    templateId,
    setTemplateId,
    original,
    setOriginal,
    more,
    setMore,
    summary,
    setSummary,
    note,
    setNote,
    number,
    setNumber,
    label,
    setLabel,
    error,
    busy,
    preview: preview.data,
    known,
    missing,
    isBegun,
    register,
    errorFor,
  };
};
