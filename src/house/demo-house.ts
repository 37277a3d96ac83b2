import { setting, putSetting } from '@/store/settings';
import type { Tx } from '@/store/database';
import { addPerson, personsHere, signsIn, type Person } from '@/store/persons';
import type { Role } from '@/core/people/doer';

/** The cookie by which the demo remembers whom one is. */
const demoCookie = 'nuntiax-as';
const mark = 'demo-house';

/** The persons of the demo, one for each role; the first is who one is to begin with. */
const demoPersons: readonly { name: string; email: string; role: Role }[] = [
  { name: 'Maren', email: 'maren@tallowyard.example', role: 'keeper' },
  { name: 'Ottoline', email: 'ottoline@tallowyard.example', role: 'sender' },
  { name: 'Tamsin', email: 'tamsin@tallowyard.example', role: 'writer' },
  { name: 'Bram', email: 'bram@tallowyard.example', role: 'box office' },
  { name: 'Idris', email: 'idris@tallowyard.example', role: 'reader' },
];

/** Makes a house that of the demo, with its persons; they have no passwords, and nobody can sign in as them. */
export function makeDemoHouse(db: Tx, at: Date): void {
  const here = new Set(personsHere(db).map((person) => person.email));
  for (const person of demoPersons)
    if (!here.has(person.email)) addPerson(db, { ...person, only: null, passwordHash: null }, at);
  putSetting(db, mark, 'yes');
}

/** Whom the demo signs in by itself, and whom one may change to. */
export interface DemoHouse {
  persons: Person[];
  /** The person that the cookies pick, or the first. */
  person(cookies: string | null): Person | null;
}

/**
 * The demo's persons, where this process was started as the demo and the data is the demo's own; else `null`: data of
 * the demo that is started for real use asks everybody to sign in.
 */
export function demoHouse(db: Tx, env: Readonly<Record<string, string | undefined>> = process.env): DemoHouse | null {
  if (env.NUNTIAX_DEMO !== 'yes' || setting(db, mark) !== 'yes') return null;
  const persons = personsHere(db)
    .filter((person) => demoPersons.some(({ email }) => email === person.email) && !signsIn(db, person.id))
    .sort((a, b) => orderOf(a) - orderOf(b));
  return {
    persons,
    person(cookies) {
      const picked = new RegExp(`(?:^|;\\s*)${demoCookie}=([\\w-]+)`).exec(cookies ?? '')?.[1];
      return persons.find((person) => person.id === picked) ?? persons[0] ?? null;
    },
  };
}

const orderOf = (person: Person) => demoPersons.findIndex(({ email }) => email === person.email);
