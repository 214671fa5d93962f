import "./Skips.css";

/** Where the Tab key may go at once: a name, and what gets the focus. */
export type Skip = [name: string, selector: string];

/** Ways past what stands before, seen while they have the focus. */
export function Skips({ to }: { to: Skip[] }) {
  return (
    <div className="skips">
      {to.map(([name, selector]) => (
        <button key={name} type="button" onClick={() => document.querySelector<HTMLElement>(selector)?.focus()}>
          {name}
        </button>
      ))}
    </div>
  );
}
