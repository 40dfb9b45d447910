export { DEMO_PASSWORD, loadDemo } from './load.ts';
export { type OldStock, oldStock, zipOf } from './oldStock.ts';
export { tarnholt } from './organisation.ts';
export { PEOPLE } from './people.ts';
