/** What this part says in sentences. */
export const setsShelfTestedInjectors = 'sets from the shelf of tested injectors';
