/** What this part says in sentences. */
export const stageJob = 'stage of this job';
export const printPageJob = 'print page of this job';
export const injectorsJob = 'of the injectors of this job';
export const injectorCylinder = 'which injector in which cylinder';
export const bookJob = 'Book in a job';
export const setsShelf = 'sets from the shelf';
export const oneInjectorAllJobs = 'one injector, all its jobs';
export const whatEachCanDecide = 'what each can decide';
export const peopleImportJob = 'people, import a job';
export const entryNotSavedYet = '1 entry is not saved yet.';
export const entriesNotSavedYet = (unkept: string | number) => `${unkept} entries are not saved yet.`;
export const casesMadeUp = 'cases on made-up engines';
