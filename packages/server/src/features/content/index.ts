// What other features may use of this one.
export { deleteUnreferencedSoon, keepContent, keepRendition, readFiled, tidyContents } from './service.ts';
export { findContent, heldContents, listWaitingTexts, setText, type UploadRow } from './store.ts';
export { clean, extractText, findText, keepWords } from './text.ts';
export { getStored, getUpload, readSentTable, rememberUpload, takeUpload, takeWritten } from './uploads.ts';
