export { tarnholt } from './house.ts';
export { DEMO_PASSWORD, loadDemo } from './load.ts';
export { type OldStock, oldStock, zipOf } from './oldStock.ts';
export { PEOPLE } from './people.ts';
