// What other features may use of this one.
export { addAffected, addTask, changeAffected, closeNote, doneTask } from './commands.ts';
export { firstTextOf, makeNote } from './newNote.ts';
export {
  answerRequest,
  answersRequest,
  changeRequests,
  ensureMaySuggest,
  openRequestsFor,
  suggestChange,
  suggestIn,
} from './requests.ts';
export { changeNote, notesOn } from './service.ts';
export { listTasksOf } from './store.ts';
export { blockersOfNote, noteToBeginUnder, putUnder } from './under.ts';
