// What other features may use of this one.
export { numberInput, registerDocument, registerIn } from './service.ts';
