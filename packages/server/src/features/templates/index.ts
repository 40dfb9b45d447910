// What other features may use of this one.
export { filledFrom, getTemplate, templateChoices } from './service.ts';
