export { DEMO_PASSWORD } from './context.ts';
export { type LegacyImport, legacyImport, zipOf } from './legacyImport.ts';
export { loadDemo } from './load.ts';
export { tarnholt } from './organisation.ts';
export { PEOPLE } from './people.ts';
