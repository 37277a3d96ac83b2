import { SMTPServer, type SMTPServerSession } from 'smtp-server';
import type { Outside } from './outside';
import type { Service } from './stand-in';
import type { Skies } from './weather';

const largestMail = 20_000_000;

/** Takes mail in by SMTP (RFC 5321) on a free port of the loopback address, for those stand-ins that take it. */
export async function startMail(
  services: ReadonlyMap<string, Service>,
  outside: Pick<Outside, 'store' | 'clock'>,
  skies: Skies,
): Promise<{ port: number; stop: () => Promise<void> }> {
  const [found] = [...services].filter(([, service]) => service.mail !== undefined);
  const mail = found?.[1].mail;
  if (!found || !mail) return { port: 0, stop: () => Promise.resolve() };
  const [name] = found;
  const weather = skies.get(name);
  const refused = (code: number, message: string) => Object.assign(new Error(message), { responseCode: code });
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    authOptional: false,
    size: largestMail,
    onConnect: (_, done) => done(weather?.down === true ? refused(421, 'the service is down') : null),
    onAuth: ({ username, password }, _, done) =>
      mail.login(outside.store, username ?? '', password ?? '')
        ? done(null, { user: username ?? '' })
        : done(refused(535, 'unknown user or key')),
    onRcptTo: ({ address }, _, done) =>
      done(mail.knows(address) ? null : refused(550, `there is no segment ${address}`)),
    onData(stream, session, done) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        const to = session.envelope.rcptTo.map((address) => address.address);
        mail.take(outside, Buffer.concat(parts), to).then(
          () => (lost() ? cutOff(session) : done(null)),
          (error: unknown) => done(refused(552, String(error instanceof Error ? error.message : error))),
        );
      });
    },
  });
  // A line that is cut by who hands it in is nothing that the others need suffer for.
  server.on('error', (error) => console.error('mail:', error.message));
  /** The answer to this letter is lost, though it was taken. */
  const lost = () => {
    const left = weather?.loseCalls.MAIL ?? 0;
    if (!weather || left === 0) return false;
    weather.loseCalls.MAIL = left - 1;
    return true;
  };
  const cutOff = ({ id }: SMTPServerSession) => {
    type Connection = { id: string; _socket: { destroy(): void } };
    for (const connection of server.connections as unknown as Set<Connection>)
      if (connection.id === id) connection._socket.destroy();
  };
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address !== null ? address.port : 0,
    stop: () => new Promise((resolve) => server.close(resolve)),
  };
}
