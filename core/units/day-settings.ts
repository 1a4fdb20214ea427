import { z } from 'zod'

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written as 07:30.')
/** What somebody has learnt, in the branch’s words. */
const skill = z.string().trim().min(1).max(40)
export const skillsSchema = z.array(skill).max(12)

/** How a branch’s working day runs, by its clock. Defaults: common practice, no source. */
export const daySettingsSchema = z
  .object({
    shiftFrom: clock.default('07:30'),
    shiftTo: clock.default('16:30'),
    /** A day may run over by so much. */
    overtimeMinutes: z.int().min(0).max(480).default(90),
    /** 0: nobody keeps a rest for them. */
    restMinutes: z.int().min(0).max(120).default(30),
    restFrom: clock.default('11:00'),
    restTo: clock.default('13:30'),
    /** Where the vans stand in the morning and parts lie; empty: at home. */
    storeAddress: z.string().trim().max(200).default(''),
    /** Days of the week that are worked, Monday is 1. */
    workdays: z.array(z.int().min(1).max(7)).max(7).default([1, 2, 3, 4, 5]),
    /** What not everybody can do: people have it, and jobs ask for it. Usual ones, common practice, no source. */
    skills: skillsSchema.default(['motors', 'networks', 'high ladders']),
    /** So many working days after a call somebody has looked at it; what is dangerous the same day. Schools differ; a company promises. */
    callbackDays: z.int().min(0).max(30).default(3),
    /** What customers call; empty: nothing is said of it. */
    telephone: z.string().trim().max(40).default(''),
  })
  .refine(({ shiftFrom, shiftTo }) => shiftFrom < shiftTo, { message: 'The day ends after it begins.', path: ['shiftTo'] })
  .refine(({ restFrom, restTo }) => restFrom <= restTo, { message: 'The rest ends after it begins.', path: ['restTo'] })
export type DaySettings = z.infer<typeof daySettingsSchema>
