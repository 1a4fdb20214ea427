import { z } from 'zod'
import { personRoles, pinShape, pinWord } from '../stream'
import { skillsSchema } from '../units/day-settings'
import { contract, deeds } from './contract'
import { done, idParam, instant } from './common'
import { initials, login, name, password } from './words'

/** The person behind a request. */
export const viewerSchema = z.strictObject({
  personId: z.uuid(),
  companyId: z.uuid(),
  branchId: z.uuid(),
  name: z.string(),
  initials: z.string(),
  role: z.enum(personRoles),
  licensed: z.boolean(),
  /** Jobs and sites of other branches this person may see: on a visit there, or with a tag still hanging. */
  guestOf: z.array(z.uuid()),
})

export type Viewer = z.infer<typeof viewerSchema>

export const personView = z.strictObject({
  id: z.uuid(),
  branchId: z.uuid(),
  login: z.string(),
  name: z.string(),
  initials: z.string(),
  role: z.enum(personRoles),
  licensed: z.boolean(),
  /** The van they drive. */
  vanId: z.uuid().nullable(),
  vanName: z.string().nullable(),
  skills: skillsSchema,
  active: z.boolean(),
  /** May answer on a mate’s device with a PIN of their own. */
  hasPin: z.boolean(),
  /** Their logins ask for a code of another device. */
  hasFactor: z.boolean(),
})
export type PersonView = z.infer<typeof personView>

/** A password that is there already, whatever was asked of it when it was made. */
const passwordNow = z.string().min(1).max(200)
/** Six digits, as apps show them, perhaps in two groups. */
const factorCode = z
  .string()
  .trim()
  .regex(/^\d{3} ?\d{3}$/, 'A code has six digits.')

const newPerson = z.object({
  branchId: z.uuid(),
  login,
  name,
  initials,
  role: z.enum(personRoles),
  licensed: z.boolean(),
  password,
  /** A van of their branch; left out: as it was. */
  vanId: z.uuid().nullable().optional(),
  skills: skillsSchema.optional(),
})

export const logIn = contract({
  route: 'POST /api/auth/login',
  summary: 'Log in.',
  access: 'public',
  body: z.object({
    login: z.string().trim().toLowerCase().min(1).max(60),
    password: passwordNow,
    /** Of their second factor, where they have one: asked for once the password was right (`codeNeeded`). */
    code: factorCode.or(z.literal('')).default(''),
  }),
  answer: z.strictObject({ viewer: viewerSchema }),
})
export const logOut = contract({
  route: 'POST /api/auth/logout',
  summary: 'Log out on this device.',
  access: 'public',
  answer: done,
})
export const listSessions = contract({
  route: 'GET /api/sessions',
  summary: 'Where one is logged in.',
  access: 'crew',
  answer: z.strictObject({
    sessions: z.array(
      z.strictObject({
        id: z.uuid(),
        /** What its browser and system are called. */
        device: z.string(),
        /** The one that asks. */
        here: z.boolean(),
        madeAt: instant,
        /** Used last, to a few minutes. */
        seenAt: instant,
      }),
    ),
  }),
})
const secretRead = z.strictObject({
  id: z.uuid(),
  what: z.enum(['setupCode', 'doorCode', 'pack', 'homePage']),
  at: instant,
  who: z.string(),
  siteName: z.string(),
  jobId: z.uuid().nullable(),
  /** Of the device whose code it was. */
  serial: z.string(),
  /** Why, where a dispatcher had no visit there. */
  reason: z.string(),
})
export type SecretRead = z.infer<typeof secretRead>
export const listSecretReads = contract({
  route: 'GET /api/secret-reads',
  summary: 'Who read which code of a home, the newest first.',
  access: ['lead'],
  answer: z.strictObject({ reads: z.array(secretRead) }),
})
const accessLine = z.strictObject({
  id: z.uuid(),
  at: instant,
  who: z.string(),
  deed: z.enum(deeds),
  /** Of a file: what it is. Of a login: the device. */
  what: z.string(),
  /** The person, branch, tester, home or link it is about. */
  about: z.string(),
  jobId: z.uuid().nullable(),
  /** Values as words; from is empty where there was none before. */
  changes: z.array(z.strictObject({ field: z.string(), from: z.string(), to: z.string() })),
})
export type AccessLine = z.infer<typeof accessLine>
export const listAccessRecord = contract({
  route: 'GET /api/access-record',
  summary: 'Who logged in, changed accounts and settings, and took files out, the newest first.',
  access: ['lead'],
  query: z.object({ before: z.uuid().optional(), deed: z.enum(deeds).optional() }),
  answer: z.strictObject({ lines: z.array(accessLine), more: z.boolean() }),
})
export const endOneSession = contract({
  route: 'POST /api/sessions/:id/end',
  summary: 'Log out on another device of one’s own.',
  access: 'crew',
  params: idParam,
  answer: done,
})
export const endOtherSessions = contract({
  route: 'POST /api/sessions/others/end',
  summary: 'Log out everywhere but here.',
  access: 'crew',
  answer: done,
})
export const changePassword = contract({
  route: 'POST /api/people/me/password',
  summary: 'Give oneself another password; every other login of one’s own ends.',
  access: 'crew',
  body: z.object({ password: passwordNow, next: password }),
  answer: done,
  leaves: { deed: 'password' },
})
/** When the database was put back, and from a backup of when. */
export const restored = z.strictObject({ at: instant, from: instant })
export type Restored = z.infer<typeof restored>
export const tried = z.strictObject({ passwords: z.int().min(0), pins: z.int().min(0) })
export type Tried = z.infer<typeof tried>
export const backupState = z.strictObject({
  /** The program makes one each day. */
  daily: z.boolean(),
  /** When the newest was made; null: none is known of. */
  madeAt: instant.nullable(),
  /** One is missing. */
  late: z.boolean(),
})
export type BackupState = z.infer<typeof backupState>
export const whoAmI = contract({
  route: 'GET /api/auth/me',
  summary:
    'Who is logged in; null when nobody is. They are told what was tried for them, and for two days that a backup was put back; leads are told of the newest backup.',
  access: 'public',
  answer: z.strictObject({
    viewer: viewerSchema.nullable(),
    now: instant,
    restored: restored.nullable(),
    /** Wrong passwords and PINs that were tried for them within a day; null: nobody is logged in. */
    tried: tried.nullable(),
    /** Told to leads alone. */
    backup: backupState.nullable(),
  }),
})
export const deviceKey = contract({
  route: 'GET /api/me/device-key',
  summary: 'What seals one’s own unsent work on a device: the same wherever one is logged in, and nobody else’s.',
  access: 'crew',
  answer: z.strictObject({
    personId: z.uuid(),
    /** 32 bytes in base64. */
    key: z.base64().length(44),
  }),
})
export const listPeople = contract({
  route: 'GET /api/people',
  summary: 'People of the company; technicians see their branch.',
  access: 'crew',
  answer: z.strictObject({ people: z.array(personView) }),
})
export const addPerson = contract({
  route: 'POST /api/people',
  summary: 'Add a person.',
  access: ['lead'],
  body: newPerson,
  answer: personView,
})
export const changePerson = contract({
  route: 'PATCH /api/people/:id',
  summary: 'Change a person; a new password or role ends their sessions.',
  access: ['lead'],
  params: idParam,
  body: newPerson.partial().extend({
    active: z.boolean().optional(),
    /** Their other device is lost: they log in without it. */
    hasFactor: z.literal(false).optional(),
  }),
  answer: personView,
})
export const beginFactor = contract({
  route: 'POST /api/me/second-factor',
  summary: 'A secret for an app that makes codes, by one’s password. It counts for nothing before a code of it was right.',
  access: 'crew',
  body: z.object({ password: passwordNow }),
  answer: z.strictObject({
    /** Base32, as it is typed. */
    secret: z.string(),
    /** As the square says it. */
    uri: z.string(),
  }),
})
export const confirmFactor = contract({
  route: 'POST /api/me/second-factor/confirm',
  summary: 'A code of it is right: from now on one’s logins ask for one.',
  access: 'crew',
  body: z.object({ code: factorCode }),
  answer: done,
  leaves: { deed: 'password', of: 'on' },
})
export const endFactor = contract({
  route: 'POST /api/me/second-factor/end',
  summary: 'Log in without a code from now on, by one’s password and a code.',
  access: 'crew',
  body: z.object({ password: passwordNow, code: factorCode }),
  answer: done,
  leaves: { deed: 'password', of: 'off' },
})
export const setPin = contract({
  route: 'POST /api/me/pin',
  summary: 'Set one’s own PIN, with one’s password: it stands for the person on a crew mate’s device.',
  access: 'crew',
  body: z.object({ password: passwordNow, pin: z.string().regex(pinShape, pinWord) }),
  answer: done,
  leaves: { deed: 'pin' },
})
export const waitingAlarm = z.strictObject({
  siteId: z.uuid(),
  seq: z.int(),
  what: z.string(),
  by: z.string(),
  place: z.string(),
  siteName: z.string(),
  at: instant,
  shown: z.boolean(),
})
/** An alarm that waits for somebody’s answer, at whichever home. */
export type WaitingAlarm = z.infer<typeof waitingAlarm>
export const listAlarms = contract({
  route: 'GET /api/me/alarms',
  summary: 'Alarms that wait for the viewer’s answer, at any home.',
  access: 'crew',
  answer: z.strictObject({ alarms: z.array(waitingAlarm) }),
})
