/** What this part says in sentences. */
export const cameraNotAvailableScan = 'Camera not available. Scan, paste or type instead.';
export const enterCylinderNumbersOne = 'Enter cylinder numbers, one after the other.';
export const busyForWhile = 'busy for a while';
export const connectionBreaksOffHalf = 'connection breaks off half-way';
export const supplyVoltageDropsHalf = 'supply voltage drops half-way';
export const storesWrongPosition = 'stores in the wrong position';
