import './topics.css';

/** The questions of a station, one of which is shown. */
export function Topics<T extends string>({
  label,
  names,
  shown,
  onShow,
}: {
  label: string;
  names: Record<T, string>;
  shown: T;
  onShow: (topic: T) => void;
}) {
  return (
    <nav className="topics" aria-label={label}>
      {(Object.keys(names) as T[]).map((one) => (
        <button key={one} type="button" aria-pressed={one === shown} onClick={() => onShow(one)}>
          {names[one]}
        </button>
      ))}
    </nav>
  );
}
