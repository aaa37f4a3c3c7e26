/** The head of a table: words with their units; those after `|` stand at the right, over figures. An empty word is a column without a name. */
export function TableHead({ columns }: { columns: readonly string[] }) {
  return (
    <thead className="text-left text-ink-2">
      <tr className="align-bottom">
        {columns.map((column, i) => {
          const right = column.startsWith('|');
          const word = right ? column.slice(1) : column;
          return word === '' ? (
            <td key={i} />
          ) : (
            <th
              key={i}
              scope="col"
              className={`py-1 pr-3 font-semibold last:pr-2 ${right ? 'text-right' : ''}`}
            >
              {word}
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
