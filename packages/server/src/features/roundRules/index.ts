// What other features may use of this one.
export { startByRules } from './startByRules.ts';
