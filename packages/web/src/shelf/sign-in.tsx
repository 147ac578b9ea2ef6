import { Button, Input } from 'antd';
import { type FormEvent, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useSignIn } from '../api/queries.js';
import { words } from '../words/words.js';
import css from './sign-in.module.css';

export default function SignInView() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useSignIn();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const to = search.get('to') ?? '/';
    signIn.mutate(
      { name, password },
      { onSuccess: () => navigate(to.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true }) },
    );
  };
  return (
    <main className={css.signIn}>
      <form onSubmit={submit}>
        <p className={css.signInProduct}>{words.product}</p>
        <h1>{words.signIn.title}</h1>
        <p className="quiet">{words.signIn.about}</p>
        <label className="field">
          <span>{words.signIn.name}</span>
          <Input value={name} onChange={(event) => setName(event.target.value)} autoComplete="username" required />
        </label>
        <label className="field">
          <span>{words.signIn.password}</span>
          <Input.Password
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            autoComplete="current-password"
            required
          />
        </label>
        {signIn.error && (
          <p className="signal" role="alert">
            {signIn.error.message}
          </p>
        )}
        <Button type="primary" htmlType="submit" disabled={signIn.isPending}>
          {words.signIn.go}
        </Button>
      </form>
    </main>
  );
}
