import type { api, BodyInOf, DocumentPage } from '@kanonos/contract';

/** The properties of a document beside the metadata of its type, as a form holds them. */
export type AboutValues = {
  parent: string;
  titles: { language: string; title: string }[];
  location: string;
  sites: string[];
  confidentiality: DocumentPage['confidentiality'];
  reviewEvery: string;
  /** '' as the type says, else yes or no. */
  followsNamingRule: '' | 'yes' | 'no';
  sharing: string;
  source: string;
  edition: string;
  watcher: { id: string; name: string }[];
};

export const NOTHING_SAID: AboutValues = {
  parent: '',
  titles: [],
  location: '',
  sites: [],
  confidentiality: 'internal',
  reviewEvery: '',
  followsNamingRule: '',
  sharing: '',
  source: '',
  edition: '',
  watcher: [],
};

export const aboutOf = (page: DocumentPage): AboutValues => ({
  parent: page.parent?.number ?? '',
  titles: Object.entries(page.titles).map(([language, title]) => ({ language, title })),
  location: page.location,
  sites: page.sites.map((site) => site.code),
  confidentiality: page.confidentiality,
  reviewEvery: page.reviewEvery.own === null ? '' : String(page.reviewEvery.own),
  followsNamingRule: page.followsNamingRule.own === null ? '' : page.followsNamingRule.own ? 'yes' : 'no',
  sharing: page.sharing.code,
  source: page.origin?.source ?? '',
  edition: page.origin?.edition ?? '',
  watcher: page.origin?.watcher ? [page.origin.watcher] : [],
});

type Body = Required<
  Pick<
    BodyInOf<typeof api.documents.correctMetadata>,
    | 'parent'
    | 'titles'
    | 'location'
    | 'sites'
    | 'confidentiality'
    | 'reviewEvery'
    | 'followsNamingRule'
    | 'sharing'
    | 'origin'
  >
>;
/** The same as the server takes it; rows without a title are left out. */
export const toAbout = (values: AboutValues): Body => ({
  parent: values.parent || null,
  titles: Object.fromEntries(
    values.titles.flatMap(({ language, title }) => (title.trim() ? [[language.trim(), title]] : [])),
  ),
  location: values.location,
  sites: values.sites,
  confidentiality: values.confidentiality,
  reviewEvery: values.reviewEvery.trim() === '' ? null : Number(values.reviewEvery),
  followsNamingRule: values.followsNamingRule === '' ? null : values.followsNamingRule === 'yes',
  sharing: values.sharing,
  origin: { source: values.source, edition: values.edition, watcherId: values.watcher[0]?.id ?? null },
});
