/** What this part says in sentences. */
export const nothingMeasured = 'Nothing was measured.';
export const scanOneToOpen = 'scan one to open its history';
export const jobMadeJobFile = (number: string | number, hash: string | number) =>
  `Job ${number}, made from the job file with SHA-256 ${hash}`;
export const injectorsSwapped = (one: string | number, other: string | number, by: string | number) =>
  `Injectors of ${one} and ${other} swapped (${by}).`;
export const cylindersClearFloodedSpark = (by: string | number) =>
  `Cylinders clear-flooded, spark plugs out (${by}).`;
