import { z } from 'zod';
import { guestRoles, roles } from './doer';
import { leastPassword, mostPassword } from './password-length';

const ids = z.array(z.string().min(1).max(64)).max(200);
/** The tours and events for which alone somebody is let in, as it is kept. */
export const guestReachSchema = z.object({ tours: ids, records: ids });

const emailSchema = z.email('An e-mail address, like ana@yard.example.').max(200).toLowerCase();
const nameSchema = z.string().trim().min(1, 'Give a name.').max(80, 'At most 80 characters.');
const reach = {
  role: z.enum(roles, { error: 'Pick a role.' }),
  only: guestReachSchema.nullable(),
};

/** A role that may be had for some events alone. */
function guestsOnly({ role, only }: { role: (typeof roles)[number]; only: z.output<typeof guestReachSchema> | null }) {
  return only === null || (guestRoles as readonly string[]).includes(role);
}
const guestIssue = { path: ['role'], error: 'For some events alone somebody is reader, writer or box office.' };
function someOnly({ only }: { only: z.output<typeof guestReachSchema> | null }) {
  return only === null || only.tours.length + only.records.length > 0;
}
const someIssue = { path: ['only'], error: 'Pick at least one tour or event, or the whole house.' };

/** Whom a keeper invites: `email`, `name`, `role`, and for which events alone. */
export const inviteSchema = z
  .object({ email: emailSchema, name: nameSchema, ...reach })
  .refine(guestsOnly, guestIssue)
  .refine(someOnly, someIssue);

/** What a keeper changes of a person. */
export const roleSchema = z.object(reach).refine(guestsOnly, guestIssue).refine(someOnly, someIssue);

/** A password as it is typed when it is set; how easily it is guessed is looked at apart. */
export const passwordSchema = z
  .string()
  .min(leastPassword, `At least ${leastPassword} characters.`)
  .max(mostPassword, `At most ${mostPassword} characters.`);

/** What somebody says who comes in by a code: the name and address may be given with the invitation. */
export const joinSchema = z.object({
  code: z.string().trim().min(1, 'Give the code.').max(80),
  name: nameSchema,
  email: emailSchema,
  password: passwordSchema,
});
