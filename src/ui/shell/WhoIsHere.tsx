import { goTo } from '@/ui/go-to';
import Link from 'next/link';
import type { Me } from '@/views/me';
import classes from './Shell.module.css';

/** The cookie by which the demo remembers whom one is. */
const demoCookie = 'nuntiax-as';

/** Who is at work, at the foot of the places; in a demo, whom one may change to. */
export function WhoIsHere({ me }: { me: Me }) {
  return (
    <div className={classes.who}>
      <Link href="/you" prefetch={false}>
        <b>{me.name}</b>
      </Link>
      {me.others === null ? (
        <span>{me.role}</span>
      ) : (
        <label>
          <span className="visuallyHidden">Change to another person of the demo</span>
          <select
            value={me.others.find(({ self }) => self)?.id ?? ''}
            onChange={(e) => {
              document.cookie = `${demoCookie}=${e.currentTarget.value}; path=/; samesite=lax`;
              // Another person sees other things: everything is fetched anew.
              goTo('/season');
            }}
          >
            {me.others.map(({ id, name, role }) => (
              <option key={id} value={id}>
                {name}, {role}
              </option>
            ))}
          </select>
          <small>signed in by the demo</small>
        </label>
      )}
    </div>
  );
}
