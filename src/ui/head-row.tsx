/** The headings of a table, one a column. */
export const HeadRow = ({ names }: { readonly names: readonly string[] }) => (
  <thead>
    <tr>
      {names.map((name, i) => (
        <th key={i} scope="col">
          {name}
        </th>
      ))}
    </tr>
  </thead>
);
