// What other parts may use of this one.
export { saveForm } from './editing.ts';
export { saveRecord, sendRecord } from './records.ts';
