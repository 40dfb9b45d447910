// breaking: no — the text of OpenDocument files, slides, drawings and older office files is taken out, also of those that are there.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- The workers ask for what waits when they start.
    update contents set text_state = 'waiting'
    where text_state = 'none' and media_type in (
      'application/vnd.oasis.opendocument.text', 'application/vnd.oasis.opendocument.spreadsheet',
      'application/vnd.oasis.opendocument.presentation',
      'application/vnd.openxmlformats-officedocument.presentationml.presentation',
      'application/msword', 'application/vnd.ms-excel', 'application/vnd.ms-powerpoint', 'application/rtf', 'image/vnd.dxf');
  `);
};
