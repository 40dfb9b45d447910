import type { DemoDocument } from './documents.ts';
import { fromMarkdown } from './text/fileOf.ts';

type Instruction = {
  title: string;
  folder: string;
  daysAgo: number;
  why: string;
  tools: readonly string[];
  steps: readonly string[];
  limits: readonly (readonly [what: string, good: string, act: string])[];
  figure?: string;
};

const INSTRUCTIONS: readonly Instruction[] = [
  {
    title: 'Test run after a rope slip',
    folder: '1/haul',
    daysAgo: 250,
    why: 'A rope that has slipped on the bullwheel may have hurt its surface or the lining. The test run shows whether the line may carry passengers again.',
    tools: ['Thermometer for surfaces', 'Yellow tape', 'Book of the line'],
    steps: [
      'Measure the temperature of the lining at six places.',
      'Run the line empty at 0.5 m/s over a whole round and watch the rope from the platform.',
      'Raise the speed by 1 m/s every five minutes up to 5 m/s.',
      'Brake once from 5 m/s with the service brake and once with the emergency brake.',
      'Compare the marks on rope and bullwheel: a new slip ends the test.',
    ],
    limits: [
      ['Lining, temperature', 'below 60 °C', 'above 60 °C: wait, measure again'],
      ['Slip in the braking test', 'below 0.3 m', 'more: line closed, technical authority'],
      ['Stopping distance from 5 m/s', '14 to 22 m', 'outside: set the brake'],
    ],
  },
  {
    title: 'Measuring the sag of the track ropes',
    folder: '1/track',
    daysAgo: 410,
    why: 'The sag tells the force in the track ropes. A rope that has crept hangs lower, and cabins come nearer to the ground.',
    tools: ['Theodolite T-1', 'Thermometer', 'Sheet of targets'],
    steps: [
      'Measure on a day without wind, with the line empty.',
      'Set the theodolite over the bolt at the station and level it.',
      'Measure the lowest point of each span three times.',
      'Reduce the figures to 10 °C with the table of the maker.',
      'Compare with the last year and with the figure of the design.',
    ],
    limits: [
      ['Sag, span 8 to 9', '9.40 to 9.80 m', 'outside: tell the technical authority'],
      ['Difference to last year', 'up to 0.10 m', 'more: measure again within a week'],
      ['Clearance above the forest road', '6.0 m and more', 'less: line closed'],
    ],
    figure: '![Figure 1: The spans](line:1-12)',
  },
  {
    title: 'Oil change of the main gear',
    folder: '1/drive',
    daysAgo: 280,
    why: 'The oil of the main gear is changed every 8,000 hours or every four years, and a sample is taken every year.',
    tools: ['Pump with filter 10 µm', 'Two clean drums of 200 l', 'Bottle for the sample'],
    steps: [
      'Run the drive for half an hour; oil is changed warm.',
      'Lock the drive and take the sample from the middle of the level.',
      'Drain, and look at the magnet of the plug: count the chips.',
      'Fill 180 litres of gear oil 220 through the filter.',
      'Run without load for ten minutes, look for leaks, read the level again.',
    ],
    limits: [
      ['Iron in the sample', 'below 60 mg/kg', 'above 100: technical authority'],
      ['Water in the sample', 'below 0.05 %', 'more: change and find the cause'],
      ['Temperature after an hour', 'below 75 °C', 'more: stop'],
    ],
  },
  {
    title: 'Check of the service brake',
    folder: '1/drive',
    daysAgo: 190,
    why: 'The service brake stops the line in daily operation. It is checked every week and set where the stopping distance leaves its band.',
    tools: ['Feeler gauges', 'Stopwatch', 'Tape'],
    steps: [
      'Measure the gap of both linings with the brake open.',
      'Measure the thickness of the linings.',
      'Close the brake and read the pressure.',
      'Brake from 5 m/s, empty; measure time and distance.',
      'Wipe the disc; oil on a disc closes the line.',
    ],
    limits: [
      ['Gap', '0.8 to 1.2 mm', 'outside: set'],
      ['Lining', '6 mm and more', 'below 6 mm: exchange both'],
      ['Stopping distance, empty', '14 to 22 m', 'outside: set, brake again'],
    ],
  },
  {
    title: 'Check of the emergency brake',
    folder: '1/drive',
    daysAgo: 191,
    why: 'The emergency brake acts on the bullwheel itself and holds the line where the gear or a shaft fails. It is tried every month.',
    tools: ['Stopwatch', 'Tape', 'Key of the test switch'],
    steps: [
      'Close the line and tell all stations.',
      'Run empty at 3 m/s and open the test switch.',
      'Measure time and distance; read the pressure of the accumulator.',
      'Release by hand pump; count the strokes.',
      'Close the test switch, lock it, give the key back.',
    ],
    limits: [
      ['Stopping distance from 3 m/s', '4 to 8 m', 'outside: line closed'],
      ['Accumulator', '140 to 160 bar', 'below 140: fill with nitrogen'],
      ['Strokes to release', 'up to 30', 'more: look for a leak'],
    ],
  },
  {
    title: 'Painting of tower feet',
    folder: '2/towers',
    daysAgo: 520,
    why: 'Rust begins where snow lies. The feet are painted every eight years up to two metres.',
    tools: ['Grinder with steel brush', 'Coating gauge', 'Primer and top coat of one maker'],
    steps: [
      'Wash off salt and let it dry for a day.',
      'Grind rust down to bright metal.',
      'Prime within four hours, at more than 8 °C and less than 80 % humidity.',
      'Two top coats, one day apart.',
      'Measure the thickness at ten places of each leg.',
    ],
    limits: [
      ['Thickness of the coat', '200 µm and more', 'below: one coat more'],
      ['Pits in the steel', 'up to 1 mm', 'deeper: technical authority'],
      ['Bolts of the foot', 'mark in place', 'moved: torque anew'],
    ],
  },
  {
    title: 'Inspection of tower ladders',
    folder: '2/towers',
    daysAgo: 372,
    why: 'Rescuers and fitters trust the ladders with their lives, in ice and by night. Each ladder is inspected once a year, after the snow has gone.',
    tools: ['Harness and fall arrester', 'Torque wrench 20 to 100 N·m', 'Camera'],
    steps: [
      'Try the rail of the fall arrester at the foot with the full weight.',
      'Look at every rung and every weld on the way up.',
      'Torque every fourth bolt; where one turns, all of that section.',
      'Try the gate of the platform.',
      'Photograph each fault with the number of the rung.',
    ],
    limits: [
      ['Rung, bent', 'up to 5 mm', 'more: ladder locked'],
      ['Rail joint, step', 'up to 1 mm', 'more: ladder locked'],
      ['Bolt M12', '75 N·m', 'turns: whole section'],
    ],
    figure: '![Figure 1: Climbing with the arrester](ladder)',
  },
  {
    title: 'Check of the wind gauges',
    folder: '2/towers',
    daysAgo: 120,
    why: 'The decision to stop rests on four gauges. Twice a year they are compared with the hand gauge, and cleaned.',
    tools: ['Hand gauge, calibrated this year', 'Brush', 'Radio'],
    steps: [
      'Climb with the hand gauge and stand on the lee side.',
      'Read both gauges at the same time, ten times in ten minutes.',
      'Turn the vane to the four directions; the control desk reads them.',
      'Clean the bearing; the cups turn for a minute after a push.',
      'Try the heating before the winter.',
    ],
    limits: [
      ['Difference of the means', 'up to 5 %', 'more: exchange'],
      ['Direction', 'up to 10°', 'more: set'],
      ['Heating', '60 to 80 W', 'outside: exchange'],
    ],
  },
  {
    title: 'Exchange of cabin windows',
    folder: '3/cabins',
    daysAgo: 610,
    why: 'A scratched window is exchanged, a cracked one takes the cabin off the line at once.',
    tools: ['Suction cups', 'Profile tool', 'Soap water'],
    steps: [
      'Take the cabin to the works hall.',
      'Draw the filler out of the profile and press the pane inwards.',
      'Clean the profile; an old profile is exchanged with the pane.',
      'Fit the new pane with soap water, filler last.',
      'Push with 500 N at the middle of the pane for ten seconds.',
    ],
    limits: [
      ['Pane under 500 N', 'stays', 'moves: fit anew'],
      ['Gap at the corner', 'none', 'any: filler anew'],
      ['Marking of the pane', 'can be read', 'missing: pane goes back'],
    ],
  },
  {
    title: 'Check of the cabin doors',
    folder: '3/cabins',
    daysAgo: 95,
    why: 'Every door is checked each month. A door that closes late makes the operator hurry, and one that does not lock stops the line.',
    tools: ['Spring balance 200 N', 'Stopwatch', 'Square key'],
    steps: [
      'Open and close by the cam at 0.5 m/s, three times.',
      'Measure the force that keeps a leaf from closing.',
      'Pull at the locked leaf from inside.',
      'Look at the red flag from outside.',
      'Open from outside with the square key.',
    ],
    limits: [
      ['Closing force', 'below 150 N', 'above: set'],
      ['Time to locked', 'below 3 s', 'above: clean the guide'],
      ['Flag', 'not to be seen when locked', 'seen: cabin off the line'],
    ],
    figure: '![Figure 1: The interlock](door)',
  },
  {
    title: 'Weighing of a carrier',
    folder: '3/grips',
    daysAgo: 330,
    why: 'The mass of a carrier decides on the force that its grip must hold. It is weighed after every repair of cabin or hanger.',
    tools: ['Crane scale 2 t', 'Hoist', 'Sheet of masses'],
    steps: [
      'Hang the scale between hoist and hanger and set it to zero with the sling.',
      'Lift the carrier by 10 cm and wait until it hangs still.',
      'Read three times; lower between the readings.',
      'Write mass, day and what is in the cabin on the sheet.',
      'Compare with the plate; a new plate where the difference is above 5 kg.',
    ],
    limits: [
      ['Empty carrier', '385 to 410 kg', 'above 410: find the cause'],
      ['Difference of readings', 'up to 1 kg', 'more: scale to calibration'],
      ['Difference to the plate', 'up to 5 kg', 'more: new plate'],
    ],
  },
  {
    title: 'Opening of the line after a long stop',
    folder: '4/daily',
    daysAgo: 210,
    why: 'After more than three days without movement water has stood in bearings, brakes and linings. The line is opened in the order of this instruction.',
    tools: ['Check list of the opening', 'Thermometer', 'Radio'],
    steps: [
      'Walk the line or ride it with the carriage; remove branches.',
      'Turn the drive by hand through one turn of the bullwheel.',
      'Brakes: once each, standing and at 1 m/s.',
      'One round empty at 1 m/s, one at 5 m/s.',
      'Inspect the rope as THR-PRO-0112 says, then open.',
    ],
    limits: [
      ['Insulation of the motor', '1 MΩ and more', 'below: dry, measure again'],
      ['Doors', 'all close', 'one fails: carrier off'],
      ['Radio', 'all stations', 'one fails: not opened'],
    ],
  },
  {
    title: 'Announcements in the stations',
    folder: '4/daily',
    daysAgo: 700,
    why: 'Passengers stay calm when they know what happens and for how long. Announcements are short, in three languages, and repeated.',
    tools: ['Texts beside the microphone', 'Clock'],
    steps: [
      'Within two minutes of a stop: that the line stands, and that somebody is at work on it.',
      'Every five minutes: what is known; never a time that is not certain.',
      'After 20 minutes: what follows.',
      'Speak slowly, German first, then English and Italian.',
      'After the end: thank and say what happened.',
    ],
    limits: [
      ['First announcement', 'within 2 minutes', 'later: note in the book'],
      ['Repeat', 'every 5 minutes', 'later: second person'],
      ['Stop above 20 minutes', 'manager speaks', ''],
    ],
  },
  {
    title: 'Carrying of wheelchairs and prams',
    folder: '4/daily',
    daysAgo: 150,
    why: 'Everybody rides. For a wheelchair the line runs slower or stands, and nobody has to ask for it twice.',
    tools: ['Ramp', 'Two belts'],
    steps: [
      'Tell the control desk the number of the cabin.',
      'Reduce to 0.3 m/s or stop.',
      'Fold the seat up and lay the ramp.',
      'Back in, brakes on, two belts to the rings.',
      'Tell the receiving station.',
    ],
    limits: [
      ['Width of the chair', 'up to 75 cm', 'wider: cabin 12 or 13'],
      ['Mass with person', 'up to 300 kg', 'more: load carrier, not with person'],
      ['Electric chair', 'switched off', ''],
    ],
  },
  {
    title: 'Counting of passengers',
    folder: '4/daily',
    daysAgo: 480,
    why: 'Passengers are counted up and down, so that in the evening nobody is left above.',
    tools: ['Counter of the gate', 'Sheet of the day'],
    steps: [
      'Set the gates to zero before the opening.',
      'Write both figures down every two hours.',
      'At 16:00 compare up and down; announce the last ride.',
      'Before the last cabin walk through restaurant, toilets and terrace.',
      'A difference above ten is talked over with the upper station.',
    ],
    limits: [
      ['Difference at the end', 'up to 10', 'more: walk again'],
      ['Gate against hand count', 'up to 2 %', 'more: repair'],
    ],
  },
  {
    title: 'Care of rescue harnesses',
    folder: '4/rescue',
    daysAgo: 260,
    why: 'A harness ends after ten years, or after one fall. In between it is washed, dried in the shade and inspected every year.',
    tools: ['Magnifier', 'List of harnesses', 'Tags'],
    steps: [
      'Look at every seam against the light.',
      'Feel each strap for hard places.',
      'Try each buckle under body weight.',
      'Wash by hand at 30 °C; dry in the shade.',
      'Write the day on the tag; cut a rejected harness through at once.',
    ],
    limits: [
      ['Age', 'up to 10 years', 'older: cut through'],
      ['Seam', 'no thread broken', 'one: rejected'],
      ['Edge of a strap', 'no cut', 'any: rejected'],
    ],
    figure: '![Figure 1: Where the harness is used](lowering)',
  },
  {
    title: 'Radio test with the rescue team',
    folder: '4/rescue',
    daysAgo: 133,
    why: 'In a rescue the radio is the only thread between tower, cabin and desk. It is tested on the first Monday of the month.',
    tools: ['Six handsets', 'List of places'],
    steps: [
      'One person at each station, one at tower 6 and one at tower 9.',
      'Call in the order of the list; repeat the number that was said.',
      'Change to the second channel and do it again.',
      'Call cabin 3, 17 and 31 through the cabin radio.',
      'Charge the batteries; write capacity down.',
    ],
    limits: [
      ['Understood', 'every place', 'one fails: repeat the same day'],
      ['Battery', '80 % and more', 'below: exchange'],
    ],
  },
  {
    title: 'Clearing of the platforms of snow',
    folder: '5',
    daysAgo: 355,
    why: 'Nobody slips on our platforms. They are cleared before the opening and whenever the snow is trodden hard.',
    tools: ['Shovels', 'Sand; no salt near the rope', 'Barrier'],
    steps: [
      'Clear from the rope outwards; never throw under the rope.',
      'Break ice at the edge of the platform by hand.',
      'Spread sand, not salt.',
      'Keep the ways out free over their whole width.',
      'Look at the roof edge: icicles close the platform below.',
    ],
    limits: [
      ['Snow on the platform', 'up to 2 cm', 'more: clear'],
      ['Way out', '1.2 m free', 'less: station closed'],
      ['Icicles', 'none above persons', 'any: barrier'],
    ],
  },
  {
    title: 'Check of the fire doors',
    folder: '5',
    daysAgo: 366,
    why: 'A fire door that is wedged open is none. They are checked each quarter.',
    tools: ['Spring balance', 'Key of the alarm panel'],
    steps: [
      'Open each door by 90° and let it go: it closes and latches by itself.',
      'Release the magnet by the panel.',
      'Measure the opening force.',
      'Look at seals and at the glass.',
      'Remove wedges, and talk with whoever put them there.',
    ],
    limits: [
      ['Closing', 'latches by itself', 'does not: set the closer the same day'],
      ['Opening force', 'below 80 N', 'above: set'],
      ['Gap at the floor', 'up to 8 mm', 'more: seal anew'],
    ],
    figure: '![Figure 1: Order of the check](flow:Open;Let_go;Magnet;Force;Seal)',
  },
  {
    title: 'Keys of the stations',
    folder: '5',
    daysAgo: 222,
    why: 'Who holds the key of the drive holds the life of the fitters. Keys are handed out by name, and counted every evening.',
    tools: ['Key book', 'Red and green tags'],
    steps: [
      'Hand out against a signature, with time and purpose.',
      'Red tag: somebody is at work; nobody else touches the switch.',
      'Count in the evening: the number in the cabinet and in the book together is 42.',
      'A missing key is looked for before the line opens.',
      'A lost key: the lock is exchanged the same day.',
    ],
    limits: [
      ['Keys in the evening', '42', 'fewer: line stays closed'],
      ['Key on loan', 'up to one shift', 'longer: call the person'],
    ],
  },
];

/** Instructions of which the next revision is in review today: since when, with whom, and what it adds to the steps. */
const IN_REVIEW: Record<string, { daysAgo: number; reviewers: string[]; reason: string; step: string }> = {
  'Measuring the sag of the track ropes': {
    daysAgo: 13,
    reviewers: ['sven.calder'],
    reason: 'The new targets are read from both stations',
    step: 'Read every target from both stations and take the mean.',
  },
  'Oil change of the main gear': {
    daysAgo: 11,
    reviewers: ['vera.solis'],
    reason: 'The sample goes to another laboratory',
    step: 'Send the sample on the day it was taken.',
  },
  'Check of the service brake': {
    daysAgo: 7,
    reviewers: ['tilda.grau', 'paul.esker', 'sven.calder'],
    reason: 'The linings of the new maker wear faster',
    step: 'Measure the lining at three places; the least counts.',
  },
  'Painting of tower feet': {
    daysAgo: 6,
    reviewers: ['zora.blum'],
    reason: 'The primer with zinc has another drying time',
    step: 'Wait eight hours between primer and first coat.',
  },
  'Check of the cabin doors': {
    daysAgo: 5,
    reviewers: ['paul.esker'],
    reason: 'The interlock of cabins 33 to 48 is tested too',
    step: 'Test the interlock with the door held open by 10 mm.',
  },
  'Weighing of a carrier': {
    daysAgo: 4,
    reviewers: ['georg.milde', 'tilda.grau'],
    reason: 'The scale has a new range',
    step: 'Set the scale to 2,000 kg and read it unloaded first.',
  },
  'Care of rescue harnesses': {
    daysAgo: 4,
    reviewers: ['vera.solis'],
    reason: 'The maker gives harnesses ten years instead of eight',
    step: 'Enter the year of making; after ten years the harness is cut.',
  },
  'Check of the fire doors': {
    daysAgo: 3,
    reviewers: ['walt.ingram'],
    reason: 'The closers were exchanged',
    step: 'The door closes by itself from any angle within five seconds.',
  },
};

/** What an instruction says, as Markdown: the same sections in the same order for every work. */
const markdownOf = ({ title, why, tools, steps, limits, figure }: Instruction, revision: number): string =>
  [
    `# ${title}`,
    '## 1 Purpose',
    why,
    `This instruction says how the work “${title}” is done and how often. Whoever does it for the first time does it together with somebody who has done it before.`,
    '## 2 Before the work',
    'Tell the control desk. Lock the drive where the work lies within reach of moving parts, and try to start it.',
    'What is needed:',
    tools.map((tool) => `- ${tool}`).join('\n'),
    '## 3 Steps',
    [...steps, ...(revision > 1 ? [IN_REVIEW[title]?.step ?? ''] : [])]
      .map((step, i) => `${i + 1}. ${step}`)
      .join('\n'),
    ...(figure ? [figure] : []),
    '## 4 Limits',
    ['| What | Good | Otherwise |', '|---|---|---|', ...limits.map((cells) => `| ${cells.join(' | ')} |`)].join('\n'),
    '> A figure outside its limit is never *nearly good*. Whoever finds it stops, and tells the supervisor.',
    '## 5 After the work',
    'Enter date and name in the maintenance book and give the key back. Tools are counted before the cover is closed.',
  ].join('\n\n');

/** The instructions for single works: short, alike in their sections, each with its own steps and limits. */
export const INSTRUCTION_DOCUMENTS: DemoDocument[] = INSTRUCTIONS.map((instruction, i) => {
  const next = IN_REVIEW[instruction.title];
  return {
    type: 'WIN',
    folder: instruction.folder,
    title: instruction.title,
    owner: ['otto.brandvik', 'petra.lindqvist'][i % 2] ?? 'otto.brandvik',
    author: next ? 'rosa.lindt' : 'joren.adeyemi',
    reviewers: next?.reviewers ?? [['otto.brandvik', 'uwe.marten', 'rosa.lindt'][i % 3] ?? 'uwe.marten'],
    file: fromMarkdown((revision) => markdownOf(instruction, revision), 'instruction.docx'),
    ending: next ? 'in review' : i % 9 === 5 ? 'draft' : 'in force',
    revisions: [
      { change: 'first issue', reason: '', summary: 'First issue.', daysAgo: instruction.daysAgo },
      ...(next ? [{ change: 'minor' as const, reason: next.reason, summary: next.step, daysAgo: next.daysAgo }] : []),
    ],
  };
});
