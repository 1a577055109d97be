/** A cell as far as its unit goes: of what is typed now, and of a bare number that was kept. */
interface InUnits {
  unit: string;
  kept_unit: string;
}

/**
 * What was typed as it stands in a field whose unit is beside it: its own unit is not said twice, and a bare
 * number of another time keeps the unit that it had. It can be sent again as it stands.
 */
export function asRead(typed: string, cell: InUnits | undefined): string {
  if (!cell || !typed || !cell.kept_unit) return typed;
  if (cell.unit && typed.endsWith(` ${cell.unit}`)) return typed.slice(0, -cell.unit.length - 1);
  const bare = /\d$/.test(typed);
  return bare && cell.unit !== cell.kept_unit ? `${typed} ${cell.kept_unit}` : typed;
}

/** A canonical number as a field is filled with it: its unit goes with it, whatever the field shows. */
export const withUnit = (value: number | null | undefined, unit: string) =>
  value == null ? '' : `${value} ${unit}`.trim();
