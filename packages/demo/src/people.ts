export type DemoPerson = {
  signInName: string;
  name: string;
  department: string;
  roles?: string[];
  groups?: string[];
  site?: string;
  supervisor?: string;
  organisationRights?: ('administer' | 'people' | 'audit' | 'security')[];
  part?: string;
  outside?: boolean;
  joined?: 'recent';
};

const FITTERS = [
  'Hanne Brook',
  'Ilya Voss',
  'Tomas Reyl',
  'Edda Kranz',
  'Jun Okabe',
  'Milo Fenn',
  'Sana Idris',
  'Pavel Dorn',
  'Wim Castor',
  'Greta Holm',
  'Bo Lindahl',
];
const OPERATORS = [
  'Ada Mirel',
  'Bram Sorley',
  'Cleo Vanter',
  'Dario Feld',
  'Elin Rask',
  'Farah Nolde',
  'Gil Ambros',
  'Hugo Steen',
  'Ida Corvin',
  'Jonas Wedel',
  'Kaja Lorn',
  'Leo Pasqual',
  'Maren Toft',
  'Nils Arden',
  'Oda Brisk',
];
const OTHERS: [name: string, department: string, group?: string][] = [
  ['Paul Esker', 'eng'],
  ['Rosa Lindt', 'eng', 'author'],
  ['Sven Calder', 'eng'],
  ['Tilda Grau', 'eng'],
  ['Uwe Marten', 'qs', 'author'],
  ['Vera Solis', 'qs'],
  ['Walt Ingram', 'pur', 'author'],
  ['Xenia Pohl', 'pur'],
  ['Yann Kessel', 'pur'],
  ['Zora Blum', 'wh', 'author'],
  ['Arne Falk', 'wh'],
  ['Britt Haas', 'wh'],
  ['Carl Noring', 'wh'],
  ['Dora Felsen', 'wh'],
  ['Emil Tarrant', 'dc'],
  ['Fanny Ostrow', 'dc'],
  ['Georg Milde', 'eng'],
  ['Hedda Quist', 'mnt'],
  ['Ivo Brandl', 'ops'],
];

/** Who supervises the people of a department that is no crew. */
const SUPERVISORS: Readonly<Record<string, string>> = { eng: 'lin.sato', qs: 'mara.quill' };

const signInName = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z ]/g, '')
    .replace(/ +/g, '.');

/** Everyone of the demo: the ten who tell the story and the outside party first, then about 45 readers. */
export const PEOPLE: DemoPerson[] = [
  {
    signInName: 'dagny.holm',
    name: 'Dagny Holm',
    department: 'dc',
    site: 'tarn',
    organisationRights: ['administer', 'people', 'security', 'audit'],
    part: 'administrator',
  },
  {
    signInName: 'ines.varga',
    name: 'Ines Varga',
    department: 'dc',
    site: 'tarn',
    roles: ['dcr'],
    organisationRights: ['audit'],
    part: 'document controller',
  },
  {
    signInName: 'mara.quill',
    name: 'Mara Quill',
    department: 'qs',
    site: 'tarn',
    roles: ['qm'],
    organisationRights: ['audit'],
    part: 'quality manager, approver',
  },
  {
    signInName: 'lin.sato',
    name: 'Lin Sato',
    department: 'eng',
    site: 'tarn',
    roles: ['ta'],
    part: 'technical authority, approver',
  },
  {
    signInName: 'joren.adeyemi',
    name: 'Joren Adeyemi',
    department: 'eng',
    site: 'tarn',
    groups: ['author'],
    supervisor: 'lin.sato',
    part: 'author',
  },
  {
    signInName: 'otto.brandvik',
    name: 'Otto Brandvik',
    department: 'mnt',
    site: 'hall',
    groups: ['author'],
    part: 'owner, supervisor of 12 fitters',
  },
  {
    signInName: 'petra.lindqvist',
    name: 'Petra Lindqvist',
    department: 'ops',
    site: 'tarn',
    groups: ['author', 'rescue'],
    part: 'operations manager, supervisor of 16 operators',
  },
  {
    signInName: 'anselm.roth',
    name: 'Anselm Roth',
    department: 'qs',
    site: 'tarn',
    organisationRights: ['audit'],
    supervisor: 'mara.quill',
    part: 'internal auditor',
  },
  {
    signInName: 'rafael.osei',
    name: 'Rafael Osei',
    department: 'mnt',
    site: 'hall',
    groups: ['grips', 'rescue'],
    supervisor: 'otto.brandvik',
    part: 'fitter, reader',
  },
  {
    signInName: 'yuki.tanabe',
    name: 'Yuki Tanabe',
    department: 'ops',
    site: 'holt',
    supervisor: 'petra.lindqvist',
    joined: 'recent',
    part: 'operator, joined a week ago',
  },
  {
    signInName: 'noor.castellan',
    name: 'Noor Castellan',
    department: 'pur',
    outside: true,
    part: 'outside party (Brennhof Castings)',
  },
  ...FITTERS.map(
    (name, i): DemoPerson => ({
      signInName: signInName(name),
      name,
      department: 'mnt',
      site: 'hall',
      supervisor: 'otto.brandvik',
      groups: i < 6 ? ['grips'] : ['rescue'],
    }),
  ),
  ...OPERATORS.map(
    (name, i): DemoPerson => ({
      signInName: signInName(name),
      name,
      department: 'ops',
      site: i % 3 === 0 ? 'skarn' : i % 3 === 1 ? 'holt' : 'tarn',
      supervisor: 'petra.lindqvist',
      groups: i < 5 ? ['rescue'] : [],
    }),
  ),
  ...OTHERS.map(
    ([name, department, group]): DemoPerson => ({
      signInName: signInName(name),
      name,
      department,
      ...(SUPERVISORS[department] ? { supervisor: SUPERVISORS[department] } : {}),
      ...(group ? { groups: [group] } : {}),
    }),
  ),
];
