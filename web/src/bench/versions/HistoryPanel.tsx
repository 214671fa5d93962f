import { useBenchPart } from "../store";
import "./HistoryPanel.css";

/** History in this sitting, to go back to any moment of it. */
export function HistoryPanel() {
  const { history, travel } = useBenchPart("history", "travel");
  const count = history.past.length;
  return (
    <aside className="panel" aria-label="History">
      <div className="panel-head">
        <h2>History</h2>
        <p className="quiet">Click a line to go back to it. Nothing is lost until you change something there.</p>
      </div>
      <ol className="history-list">
        <li>
          <button type="button" className="bare" aria-current={count === 0 ? "step" : undefined} onClick={() => travel(-count)}>
            opened
          </button>
        </li>
        {history.past.map((past, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a moment is known by its order alone
          <li key={index}>
            <button
              type="button"
              className="bare"
              aria-current={index === count - 1 ? "step" : undefined}
              onClick={() => travel(index + 1 - count)}
            >
              {past.done}
            </button>
          </li>
        ))}
        {history.future.map((next, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a moment is known by its order alone
          <li key={`later-${index}`} className="later">
            <button type="button" className="bare" onClick={() => travel(index + 1)}>
              {next.done}
            </button>
          </li>
        ))}
      </ol>
    </aside>
  );
}
