/** The handbook: what each screen is for, what to do on it, and the words of the trade explained. */
export interface HelpPage {
  id: string;
  title: string;
  /** Addresses that it is for. */
  at: RegExp;
  purpose: string;
  steps: string[];
  /** Words of the list below that stand on this screen. */
  terms: string[];
}

export const PAGES: HelpPage[] = [
  {
    id: 'start',
    title: 'First steps',
    at: /^\/start/,
    purpose: 'Sets up an empty workshop in four short steps. Each can be skipped and done later.',
    steps: [
      'Enter your name: every reading and decision is signed with it.',
      'Enter the workshop: its name and address head every report.',
      'Load the starter library, or import limits of your own.',
      'Book in the first job.',
    ],
    terms: ['limit', 'family'],
  },
  {
    id: 'board',
    title: 'Job board',
    at: /^\/$/,
    purpose: 'Shows every open job with its injectors, what it waits for and the one next step.',
    steps: [
      'Read the coloured bar: it names the stage and what is found there.',
      'Tap a job, or press its place in the list (1 to 9), to go on with it.',
      'Type in the search field to filter by machine, customer or number.',
      'Tap a number at the top to see only those jobs.',
    ],
    terms: ['inconclusive', 'doubtful reading'],
  },
  {
    id: 'take-in',
    title: 'Take in',
    at: /^\/jobs\/(new|[^/]+\/take-in)$/,
    purpose: 'Books in a machine with its complaint. The plan of checks follows from what is tapped here.',
    steps: [
      'Enter the machine and the customer.',
      'Tap every symptom that applies, and when it shows.',
      'Enter engine, fuel system, cylinders and which end is cylinder 1.',
      'Press Create job: the plan opens.',
    ],
    terms: ['start time', 'family'],
  },
  {
    id: 'plan',
    title: 'Plan',
    at: /\/take-in\/plan$/,
    purpose: 'Lists the checks in order, each with its reason, minutes, tools and cautions.',
    steps: [
      'Start with the step that is marked as next.',
      'A result changes the plan: steps become unnecessary, or wait for a repair.',
      'Skip a step with a reason, or add one of your own.',
    ],
    terms: ['relative compression', 'noid light'],
  },
  {
    id: 'return-test',
    title: 'Return test (leak-off)',
    at: /\/on-engine$/,
    purpose:
      'Measures how much fuel each injector leaks off. One that leaks off much more than the others, or more than its limit, is worn internally.',
    steps: [
      'Enter bottles, length of the run and engine temperature once. They stay for every run of this test.',
      'Purge the hoses until no bubbles come, then empty the bottles.',
      'Tick the checklist. What stays unticked is named in the result.',
      'Start the run. Tap a bottle, or press its number, the moment it is full.',
      'Stop, pull all hoses together, and enter each level.',
      'Repeat: three runs before an injector is replaced.',
    ],
    terms: ['leak-off', 'limit', 'guard band', 'inconclusive', 'overflow', 'u'],
  },
  {
    id: 'swap',
    title: 'Swap',
    at: /\/on-engine\/swap$/,
    purpose: 'Tells the injector from its cylinder: swap two, repeat the test, and see what moved.',
    steps: [
      'Tap the two columns whose injectors were swapped and record it.',
      'Press Prepare repeat: bottles, temperature and line stay the same.',
      'Fault follows the injector: the injector. Fault stays: line, wiring or cylinder.',
    ],
    terms: ['leak-off'],
  },
  {
    id: 'check',
    title: 'A check across the cylinders',
    at: /\/(rule-out|electrical|on-engine)(\/|$)/,
    purpose: 'Takes one reading at each cylinder and compares them with a limit and with each other.',
    steps: [
      'Read the cautions and tick the checklist.',
      'Fill in the cells in the order shown; Enter goes to the next one.',
      'Tap a column to see why its result is what it is.',
    ],
    terms: ['noid light', 'lead resistance', 'leak-down', 'guard band', 'inconclusive'],
  },
  {
    id: 'bench',
    title: 'Bench session',
    at: /^\/bench|\/jobs\/[^/]+\/bench/,
    purpose: 'Keeps every round of a set on the test bench: as received, cleaned or adjusted, final.',
    steps: [
      'Choose the driver first: the wrong one destroys a coil.',
      'Enter the conditions above the grid, then the readings.',
      'Wait for the foam to settle before reading a tube.',
      'After cleaning, start a new round and repeat the same regimes.',
    ],
    terms: ['dead time', 'static flow', 'energising time', 'trim code', 'driver'],
  },
  {
    id: 'decide',
    title: 'Decide',
    at: /\/decide$/,
    purpose: 'Proposes a decision for each injector from all findings, with the ranked causes and the costs.',
    steps: [
      'Tap an injector to see what its proposal rests on.',
      'Agree, or override with a reason.',
      'If a reading is missing, do the best next check first.',
      'A second person signs.',
    ],
    terms: ['likely', 'comeback', 'inconclusive'],
  },
  {
    id: 'positions',
    title: 'Positions and fuelling',
    at: /\/decide\/places/,
    purpose: 'Finds the best cylinder for each injector and shows what the set means for the ECU.',
    steps: ['Choose what to order by.', 'Save positions: trim codes have to move with them.'],
    terms: ['static flow', 'dead time', 'trim code'],
  },
  {
    id: 'fit',
    title: 'Fit',
    at: /\/refit$/,
    purpose: 'A fitting card: steps down, cylinders across, each tick with a name.',
    steps: [
      'Tick each step at each cylinder whose injector was out.',
      'Enter the maker’s tightening figures if none are on file.',
      'Record faults as you find them.',
    ],
    terms: ['trim code'],
  },
  {
    id: 'codes',
    title: 'Trim codes',
    at: /\/refit\/codes/,
    purpose: 'Captures the trim codes of the bodies, writes them to the ECU and reads them back.',
    steps: [
      'Read the stored codes first.',
      'Capture each code: scan it, or type it twice.',
      'Support charger on, ignition on, engine off. Write, then wait for the end.',
      'Compare: every cylinder must hold the code of its own injector.',
    ],
    terms: ['trim code', 'ECU'],
  },
  {
    id: 'prove',
    title: 'Prove',
    at: /\/prove$/,
    purpose: 'Lists what proves the repair. A job closes as proven only when all of it is done.',
    steps: [
      'Work down the list; mark each as passed, failed or skipped with a reason.',
      'Repeat the failed test under the same conditions.',
      'Close the job, or log a comeback later.',
    ],
    terms: ['relearn drive', 'learned values', 'comeback'],
  },
  {
    id: 'report',
    title: 'Report',
    at: /\/(report|labels)$/,
    purpose: 'The customer’s page, short and in plain words, and behind it the technical pages.',
    steps: [
      'Choose the paper.',
      'Add technical pages if they are wanted.',
      'Print, or save one file to share.',
    ],
    terms: ['limit', 'u'],
  },
  {
    id: 'history',
    title: 'Injector history',
    at: /^\/passports/,
    purpose: 'Follows one injector through all its jobs and cylinders.',
    steps: ['Scan a label, or type its start.', 'Tap a job to open it.'],
    terms: ['leak-off'],
  },
  {
    id: 'match',
    title: 'Match',
    at: /^\/match/,
    purpose: 'Makes sets from tested injectors that are close in flow and opening.',
    steps: [
      'Choose the kind and the size of a set.',
      'Choose what to match on.',
      'Save the sets that you want.',
    ],
    terms: ['static flow', 'dead time'],
  },
  {
    id: 'library',
    title: 'Library',
    at: /^\/library/,
    purpose: 'Families of injectors with their limits, each with its source and revision.',
    steps: [
      'Search by family, check or source.',
      'Add a family, or import limits from a file.',
      'A change is a new revision; older tests keep the limits they were assessed by.',
    ],
    terms: ['family', 'limit'],
  },
  {
    id: 'instruments',
    title: 'Instruments',
    at: /^\/instruments/,
    purpose: 'What the workshop measures with, how accurate it is, and whether it can decide a limit.',
    steps: ['Add bottles and meter first.', 'Enter a limit to see whether the instrument can decide it.'],
    terms: ['u', 'guard band', 'capability'],
  },
  {
    id: 'connections',
    title: 'Connections',
    at: /^\/connections/,
    purpose: 'Instruments that are read over the network in place of typing.',
    steps: [
      'Add an instrument by its IP address, its port and its kind; only what is listed here is contacted.',
      'Test it: it names itself and shows a reading. Another kind, silence and impossible values are named.',
      'Choose it in a return test, a check, the bench or a recording. Entry by hand stays possible.',
    ],
    terms: ['leak-off'],
  },
  {
    id: 'trainer',
    title: 'Trainer',
    at: /^\/(trainer|jobs\/[^/]+\/exercise)/,
    purpose:
      'Cases on made-up engines with a known truth: worked on in the ordinary views, marked at the end.',
    steps: [
      'Start one of the ten cases, or draw one from a level and a seed. The same seed is the same engine.',
      'Warm up, test and decide as in a real job. Minutes and parts are counted; readings come at one press.',
      'Decide every cylinder and end the exercise: truth, mistakes, cost of the best way, a mark for each skill.',
      'Who may sign for others can set a case for somebody and read how it was done.',
    ],
    terms: ['bracket', 'trim code'],
  },
  {
    id: 'rules',
    title: 'Workshop rules',
    at: /^\/rules/,
    purpose: 'Defaults of the trade that this workshop may change, each with a reason.',
    steps: ['Open a rule, enter a value and a reason, save it as a new revision.'],
    terms: ['look level', 'suspect level', 'guard band'],
  },
  {
    id: 'calculators',
    title: 'Calculators',
    at: /^\/calculators/,
    purpose: 'Quick answers without a job: pulse, flow, sizing, units, temperature, run time.',
    steps: ['Choose one on the left and type; the answer follows.', 'Copy the link to share it.'],
    terms: ['dead time', 'static flow'],
  },
  {
    id: 'workshop',
    title: 'Workshop',
    at: /^\/workshop/,
    purpose: 'Name and address for reports, people, and data in and out.',
    steps: ['Enter name, address and logo.', 'Import or export a job, or the whole workshop.'],
    terms: [],
  },
];

export const TERMS: Record<string, string> = {
  'leak-off': 'Fuel that an injector returns instead of injecting. Every injector leaks off a little.',
  'static leak-off': 'Leak-off while the injector is not driven: the valve seat does not close.',
  limit: 'A value from the library, with its source and revision.',
  'guard band':
    'The strip on either side of a limit in which the measurement cannot say on which side the value is.',
  inconclusive: 'Inside the guard band: more runs, a longer run or a finer instrument would settle it.',
  'doubtful reading':
    'The reading itself is in doubt, not the part: a hose, a slip, a run unlike the others.',
  'no fault found': 'Compared with the others it does not stand out. It is not a proof of health.',
  likely: 'The chance in percent that this cause is the true one, from all findings together.',
  'look level': 'Above the others by this much: look closer.',
  'suspect level': 'Above the others by this much: suspect.',
  overflow: 'A bottle that was full before the end. Its time still gives a lower bound of the rate.',
  u: 'Standard uncertainty of a value: it lies within ±2 u about nineteen times in twenty.',
  capability: 'The width of the limits over four standard uncertainties of the instrument.',
  'dead time': 'Time from the start of the pulse until fuel flows.',
  'energising time': 'How long the coil or stack is driven.',
  'static flow': 'Flow of an injector that is held open.',
  driver: 'The output that drives an injector; also the setting of the bench that imitates it.',
  'trim code': 'Characters on the body that tell the ECU how this injector differs from the nominal one.',
  ECU: 'Engine control unit, also called ECM.',
  'learned values': 'Corrections that the ECU has learned for each cylinder.',
  'relearn drive': 'A drive under the conditions that the ECU needs to learn its corrections again.',
  comeback: 'A job that returns with the same complaint.',
  'noid light': 'A small lamp in place of the injector. Dark proves a fault; lit proves little.',
  'lead resistance': 'Resistance of the meter leads: hold the probes together and subtract it.',
  'leak-down': 'Pressure that the rail loses by itself.',
  'relative compression': 'Cylinders compared by cranking current. Quick, but no proof.',
  'start time': 'Time from the start of cranking until the engine runs.',
  family: 'Injectors of one kind, with common limits.',
  'hydraulic lock': 'Liquid fuel on a piston that cannot be compressed: it bends the rod.',
  'clear-flood': 'Cranking with the throttle open and the spark plugs out to clear fuel from the cylinders.',
  'back-flush': 'Flushing an injector from its tip to its inlet.',
};

export const pageFor = (path: string) => PAGES.find((one) => one.at.test(path)) ?? PAGES[1]!;
export const nothingFound = 'No help page or word matches.';
export const everyScreen = 'every screen and every word';
