import { Button } from 'antd';
import { useNavigate } from 'react-router';
import { privacyWords as w } from '../words/privacy.js';
import css from './account.module.css';

/** What is stored about students, for everybody to read. */
export default function Stored() {
  const navigate = useNavigate();
  return (
    <main className={css.page}>
      <header>
        <h1>{w.title}</h1>
        <Button onClick={() => (history.length > 1 ? navigate(-1) : navigate('/'))}>{w.back}</Button>
      </header>
      <p>{w.lead}</p>
      {w.parts.map(({ head, lines }) => (
        <section key={head}>
          <h2>{head}</h2>
          {lines.map((line) => (
            <p key={line}>{line}</p>
          ))}
        </section>
      ))}
    </main>
  );
}
