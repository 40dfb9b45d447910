export { tarnholt } from './house.ts';
export { DEMO_PASSWORD, loadDemo } from './load.ts';
export { PEOPLE } from './people.ts';
