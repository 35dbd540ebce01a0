import { Button, Input } from 'antd';
import { useState, type ReactNode } from 'react';

interface NamePasswordProps {
  readonly does: string;
  /** Whether the password is a new one, for what the browser keeps of it. */
  readonly isNew: boolean;
  readonly isPending: boolean;
  readonly error: Error | null;
  readonly onSubmit: (name: string, password: string) => void;
  readonly children?: ReactNode;
}

/** Who somebody is, on a card. */
export function NamePassword({ does, isNew, isPending, error, onSubmit, children }: NamePasswordProps) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  return (
    <form
      className="door-card"
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit(name, password);
      }}
    >
      {children}
      {error && (
        <p className="refusal" role="alert">
          {error.message}
        </p>
      )}
      <label>
        Name
        <Input
          value={name}
          autoComplete="username"
          maxLength={200}
          autoFocus
          onChange={(e) => {
            setName(e.target.value);
          }}
        />
      </label>
      <label>
        Password
        <Input
          type="password"
          value={password}
          autoComplete={isNew ? 'new-password' : 'current-password'}
          maxLength={200}
          onChange={(e) => {
            setPassword(e.target.value);
          }}
        />
      </label>
      {isNew && <p className="door-note">At least eight letters; a line that you remember is a good one.</p>}
      <Button
        type="primary"
        htmlType="submit"
        loading={isPending}
        disabled={name.trim() === '' || password.length < (isNew ? 8 : 1)}
      >
        {does}
      </Button>
    </form>
  );
}
