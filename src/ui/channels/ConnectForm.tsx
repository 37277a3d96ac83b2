import { NativeSelect, TextInput } from '@mantine/core';
import { useState, useTransition, type FormEvent } from 'react';
import classes from './ChannelCard.module.css';

export type Connect = (
  which: { kind: string } | { id: string },
  input: {
    address: string;
    credentials: Record<string, string>;
    name?: string;
    shortName?: string;
    settings?: Record<string, string>;
  },
) => Promise<{ ok: true; value: { id: string; knownAs: string } } | { ok: false; error: Record<string, string> }>;

/** One setting in words; it is chosen where there are choices. */
export interface SettingOf {
  name: string;
  label: string;
  about: string;
  choices: readonly { value: string; label: string }[];
}

interface ConnectFormProps {
  /** What is connected: a channel anew, or a new one of a kind. */
  which: { kind: string } | { id: string };
  credentials: readonly { name: string; label: string; secret: boolean; about?: string }[];
  /** How one gets there what is asked for. */
  steps: readonly string[];
  /** The kind's own settings, in words, with what they are now. */
  settings: readonly (SettingOf & { value: string })[];
  /** `null`: it lies at our own house, and there is none to be typed. */
  address: string | null;
  /** The names that it begins with; `null`: they are not asked for. */
  names: { name: string; shortName: string } | null;
  connect: Connect;
  onConnected: (knownAs: string, id: string) => void;
}

/** How a channel is reached: tried before anything is kept. What was typed stays where that fails. */
export function ConnectForm(props: ConnectFormProps) {
  const form = useConnectFormState(props);
  const { submit, steps, errors, busy, address, names } = form;
  return (
    <form onSubmit={submit} className={classes.form}>
      {steps.length === 0 ? null : (
        <ol className={classes.steps}>
          {steps.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      <Credentials form={form} />
      {errors.credentials ? (
        <p className="problem" role="alert">
          {errors.credentials}
        </p>
      ) : null}
      <button type="submit" className="quietButton" disabled={busy}>
        {address === null ? (names === null ? 'Keep it' : 'Make it') : busy ? 'Trying …' : 'Try and keep'}
      </button>
    </form>
  );
}

/** What is typed to connect it. */
function useConnectFormState({
  which,
  credentials,
  steps,
  settings,
  address,
  names,
  connect,
  onConnected,
}: ConnectFormProps) {
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, start] = useTransition();
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const given = (name: string) => String(form.get(name) ?? '');
    const input = {
      address: given('address'),
      credentials: Object.fromEntries(credentials.map((credential) => [credential.name, given(credential.name)])),
      ...(settings.length === 0
        ? {}
        : { settings: Object.fromEntries(settings.map((setting) => [setting.name, given(setting.name)])) }),
    };
    start(async () => {
      const failed = { ok: false as const, error: { credentials: 'The house did not answer. Try once more.' } };
      const answer = await connect(
        which,
        names === null ? input : { ...input, name: given('name'), shortName: given('shortName') },
      ).catch(() => failed);
      setErrors(answer.ok ? {} : answer.error);
      if (answer.ok) onConnected(answer.value.knownAs, answer.value.id);
    });
  };
  return { names, errors, address, credentials, settings, submit, steps, busy };
}

type ConnectFormState = ReturnType<typeof useConnectFormState>;

/** What it asks for: names, credentials, settings. */
function Credentials({ form: { names, errors, address, credentials, settings } }: { form: ConnectFormState }) {
  return (
    <>
      {names === null ? null : (
        <>
          <TextInput name="name" label="What you call it" defaultValue={names.name} error={errors.name} />
          <TextInput
            name="shortName"
            label="In short, for columns"
            defaultValue={names.shortName}
            error={errors.shortName}
          />
        </>
      )}
      {address === null ? null : (
        <TextInput
          name="address"
          label="Address"
          placeholder="https://"
          defaultValue={address}
          error={errors.address}
        />
      )}
      {credentials.map((credential) => (
        <TextInput
          key={credential.name}
          name={credential.name}
          label={credential.label}
          description={credential.about}
          type={credential.secret ? 'password' : 'text'}
          autoComplete="off"
          error={errors[credential.name]}
        />
      ))}
      {settings.map(({ choices, value, name, label, about }) => {
        const field = { name, label, description: about, defaultValue: value, error: errors[name] };
        return choices.length > 0 ? (
          <NativeSelect key={name} {...field} data={[...choices]} />
        ) : (
          <TextInput key={name} {...field} />
        );
      })}
    </>
  );
}
