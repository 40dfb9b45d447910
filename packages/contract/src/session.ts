import { CONFIDENTIALITIES, FORBIDDEN, ORGANISATION_RIGHTS } from '@kanonos/core';
import { z } from 'zod';
import { AbsenceBody, AbsenceInfo, Day, Id, Instant, PersonRef, RowVersion } from './common.ts';
import { endpoint } from './endpoint.ts';

export const MailMode = z.enum(['at once', 'daily', 'desk only']);

export const Me = z.object({
  id: Id,
  signInName: z.string(),
  name: z.string(),
  /** Who sees the application as this person, read only. */
  seenBy: z.string().nullable(),
  email: z.string(),
  department: z.string().nullable(),
  /** A person of an outside party. */
  outside: z.boolean(),
  mailMode: MailMode,
  organisationRights: z.array(z.enum(ORGANISATION_RIGHTS)),
  mayRegister: z.boolean(),
  /** Controls documents or supervises people: sees rounds that others are asked in. */
  overseesRounds: z.boolean(),
  managesFolders: z.boolean(),
  supervises: z.number().int(),
  rowVersion: RowVersion,
  organisation: z.object({
    name: z.string(),
    code: z.string(),
    zone: z.string(),
    demo: z.boolean(),
    today: Day,
    signingIdleMinutes: z.number(),
    /** Working weekdays (ISO, Monday is 1), and holidays. */
    week: z.array(z.number()),
    holidays: z.array(Day),
    /** What each level of confidentiality forbids. */
    stateWords: z.record(z.string(), z.string()),
    /** What a signature outside a round may mean. */
    signatureMeanings: z.array(z.string()),
    confidentiality: z.record(z.enum(CONFIDENTIALITIES), z.array(z.enum(FORBIDDEN))),
  }),
});
export type Me = z.infer<typeof Me>;

export const session = {
  signIn: endpoint({
    id: 'signIn',
    feature: 'session',
    method: 'POST',
    path: '/api/session',
    access: 'public',
    summary: 'Sign in with name and password; answers with a session cookie',
    body: z.strictObject({ name: z.string().max(200), password: z.string().max(1000) }),
    answer: Me,
    problems: ['sign_in_wrong', 'sign_in_slowed', 'input_invalid'],
  }),
  signOut: endpoint({
    id: 'signOut',
    feature: 'session',
    method: 'DELETE',
    path: '/api/session',
    summary: 'Sign out; `everywhere` ends the sessions on all devices',
    query: z.strictObject({ everywhere: z.enum(['yes', 'no']).default('no') }),
  }),
  me: endpoint({
    id: 'me',
    feature: 'session',
    method: 'GET',
    path: '/api/session',
    summary: 'Who is signed in',
    answer: Me,
  }),
  welcome: endpoint({
    id: 'welcome',
    feature: 'session',
    method: 'GET',
    path: '/api/welcome',
    access: 'public',
    summary: 'What the sign-in page shows: the organisation, and on a demo server its people',
    answer: z.object({
      organisation: z.string(),
      demo: z
        .object({
          password: z.string(),
          people: z.array(
            z.object({ signInName: z.string(), name: z.string(), department: z.string(), part: z.string() }),
          ),
        })
        .nullable(),
    }),
  }),
  changeProfile: endpoint({
    id: 'changeProfile',
    feature: 'session',
    method: 'PATCH',
    path: '/api/profile',
    summary: 'Change how mails come',
    body: z.strictObject({ mailMode: MailMode, rowVersion: RowVersion }),
    answer: Me,
    problems: ['changed_meanwhile', 'input_invalid'],
  }),
  changePassword: endpoint({
    id: 'changePassword',
    feature: 'session',
    method: 'POST',
    path: '/api/profile/password',
    summary: 'Change one’s own password; ends all other sessions',
    body: z.strictObject({ present: z.string().max(1000), next: z.string().max(1000) }),
    problems: ['password_wrong', 'password_weak', 'sign_in_slowed', 'input_invalid'],
  }),
  absences: endpoint({
    id: 'absences',
    feature: 'session',
    method: 'GET',
    path: '/api/profile/absences',
    summary: 'One’s own absences with deputies, and whom one is acting for',
    answer: z.object({
      mine: z.array(AbsenceInfo),
      standingInFor: z.array(z.object({ person: PersonRef, from: Day, to: Day })),
    }),
  }),
  addAbsence: endpoint({
    id: 'addAbsence',
    feature: 'session',
    method: 'POST',
    path: '/api/profile/absences',
    summary: 'Enter an absence with a deputy',
    body: AbsenceBody,
    answer: z.object({ id: Id }),
    problems: ['absence_days', 'deputy_self', 'deputy_outside', 'person_inactive', 'input_invalid', 'not_found'],
  }),
  endAbsence: endpoint({
    id: 'endAbsence',
    feature: 'session',
    method: 'DELETE',
    path: '/api/profile/absences/:id',
    summary: 'Delete an absence',
    params: z.strictObject({ id: Id }),
    problems: ['not_found'],
  }),
  passwordLink: endpoint({
    id: 'passwordLink',
    feature: 'session',
    method: 'GET',
    path: '/api/password-links/:token',
    access: 'public',
    summary: 'Whose password a link sets',
    params: z.strictObject({ token: z.string().max(200) }),
    answer: z.object({ name: z.string(), signInName: z.string(), until: Instant }),
    problems: ['link_invalid'],
  }),
  setPassword: endpoint({
    id: 'setPassword',
    feature: 'session',
    method: 'POST',
    path: '/api/password-links/:token',
    access: 'public',
    summary: 'Set a password by a link from the mail',
    params: z.strictObject({ token: z.string().max(200) }),
    body: z.strictObject({ password: z.string().max(1000) }),
    problems: ['link_invalid', 'password_weak', 'input_invalid'],
  }),
};
