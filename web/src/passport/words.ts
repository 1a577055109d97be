/** What this part says in sentences. */
export const oneInjectorAllJobs = 'one injector, all its jobs';
