import { ORGANISATION_RIGHTS, RIGHTS } from '@kanonos/core';
import { z } from 'zod';
import { Day, text } from './common.ts';
import { ConfigurationPackage } from './configurationPackage.ts';
import { endpoint } from './endpoint.ts';

/** The first steps of a new organisation, in their order. */
export const FIRST_STEPS = ['organisation', 'administrator', 'configuration', 'people', 'mail', 'documents'] as const;
export type FirstStep = (typeof FIRST_STEPS)[number];

/** No encryption; a plain connection that must be upgraded (STARTTLS); encrypted from the first byte (RFC 8314). */
export const MailSecurity = z.enum(['none', 'upgrade', 'encrypted']);

const Named = z.object({ code: z.string(), name: z.string() });
export const StartingConfigurationInfo = z.object({
  id: z.string(),
  name: z.string(),
  about: z.string(),
  package: ConfigurationPackage,
  folders: z.array(
    z.object({
      path: z.array(z.string()),
      code: z.string().nullable(),
      rights: z.array(z.object({ to: z.string(), rights: z.array(z.enum(RIGHTS)) })),
    }),
  ),
  /** Organisation-wide rights of the members of a unit. */
  unitRights: z.record(z.string(), z.array(z.enum(ORGANISATION_RIGHTS))),
});
export type StartingConfigurationInfo = z.infer<typeof StartingConfigurationInfo>;

/** Setting up a new organisation in the browser. */
export const setup = {
  state: endpoint({
    id: 'setupState',
    feature: 'setup',
    method: 'GET',
    path: '/api/setup',
    access: 'administer',
    summary: 'Whether the first steps of a new organisation are offered, and which are done',
    answer: z.object({
      isOpen: z.boolean(),
      steps: z.array(z.object({ step: z.enum(FIRST_STEPS), done: z.boolean() })),
      mail: z.object({
        from: z.string(),
        /** The mail server without its password; null where mails go to the stand-in and reach nobody. */
        server: z.string().nullable(),
        /** Who decides which server it is; what the environment says cannot be changed here. */
        setBy: z.enum(['environment', 'browser', 'stand-in']),
        settings: z
          .object({
            host: z.string(),
            port: z.number().int(),
            security: MailSecurity,
            user: z.string(),
            hasPassword: z.boolean(),
            sender: z.string(),
          })
          .nullable(),
      }),
    }),
  }),
  holidays: endpoint({
    id: 'publicHolidays',
    feature: 'setup',
    method: 'GET',
    path: '/api/setup/holidays',
    access: 'administer',
    summary: 'Public holidays of a country and region for this year and the next two, to take over into the calendar',
    query: z.strictObject({ country: z.string().max(2).default(''), region: z.string().max(10).default('') }),
    answer: z.object({
      countries: z.array(Named),
      regions: z.array(Named),
      holidays: z.array(z.object({ day: Day, name: z.string() })),
    }),
  }),
  configurations: endpoint({
    id: 'startingConfigurations',
    feature: 'setup',
    method: 'GET',
    path: '/api/setup/configurations',
    access: 'administer',
    summary: 'The configurations that ship, each whole',
    answer: z.object({ configurations: z.array(StartingConfigurationInfo) }),
  }),
  apply: endpoint({
    id: 'applyStartingConfiguration',
    feature: 'setup',
    method: 'POST',
    path: '/api/setup/configuration',
    access: 'administer',
    summary: 'Take over a starting configuration: the chosen types, units, folders and rights, all of it or nothing',
    body: z.strictObject({
      id: z.string().max(40),
      /** Codes of the types to take over. */
      types: z.array(text(12, 1)).min(1, 'at least one type').max(200),
      /** Names of units, such as role/CTRL, that the administrator becomes a member of. */
      join: z.array(z.string().max(30)).max(20).default([]),
    }),
    answer: z.object({ types: z.number().int(), folders: z.number().int() }),
    problems: ['not_found', 'rule_ambiguous', 'input_invalid', 'nothing_changed'],
  }),
  saveMailServer: endpoint({
    id: 'saveMailServer',
    feature: 'setup',
    method: 'PUT',
    path: '/api/setup/mail-server',
    access: 'administer',
    summary: 'Set the mail server, once it has answered; a password that is left out stays, for the same host and user',
    body: z.strictObject({
      host: text(200, 1).refine((host) => /^[\w.:-]+$/.test(host), 'a host name such as mail.example.org'),
      port: z.number().int().min(1).max(65_535),
      security: MailSecurity,
      user: text(200).default(''),
      password: z.string().max(500).nullable().default(null),
      sender: z.email('a mail address such as documents@example.org').max(200),
    }),
    problems: ['mail_server_fixed', 'mail_server_refuses', 'input_invalid'],
  }),
  removeMailServer: endpoint({
    id: 'removeMailServer',
    feature: 'setup',
    method: 'DELETE',
    path: '/api/setup/mail-server',
    access: 'administer',
    summary: 'Forget the mail server: mails go to the stand-in and reach nobody',
    problems: ['nothing_changed'],
  }),
  testMail: endpoint({
    id: 'sendTestMail',
    feature: 'setup',
    method: 'POST',
    path: '/api/setup/test-mail',
    access: 'administer',
    summary: 'Send a test mail to one’s own address',
    answer: z.object({ to: z.string() }),
    problems: ['mail_address_missing'],
  }),
  close: endpoint({
    id: 'closeSetup',
    feature: 'setup',
    method: 'POST',
    path: '/api/setup/close',
    access: 'administer',
    summary: 'Stop offering the first steps; `open` offers them again',
    body: z.strictObject({ open: z.boolean().default(false) }),
  }),
};
