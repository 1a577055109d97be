/** What was pasted as a column or a row, one value each; nothing where it is a single value, which a field takes itself. */
export function pastedColumn(event: ClipboardEvent): string[] {
  const text = event.clipboardData?.getData('text') ?? '';
  const values = text
    .split(/[\r\n\t]+/)
    .map((line) => line.trim())
    .filter(Boolean);
  if (values.length < 2) return [];
  event.preventDefault();
  return values;
}
