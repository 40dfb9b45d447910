import type { OrganisationDescription } from '@kanonos/server';

type Type = OrganisationDescription['types'][number];

/** The families and groups of the organisation's classification, with the types that nobody has used yet: code, name, what it is for. */
const CLASSIFICATION: Record<string, Record<string, [code: string, name: string, help: string][]>> = {
  Company: {
    Direction: [
      ['STR', 'Strategy paper', 'Where the organisation wants to be in some years, and why.'],
      ['ORG', 'Organisation chart', 'Who answers to whom, with names and deputies.'],
      ['RUL', 'Organisation rule', 'What everyone keeps to, on one page.'],
      ['BUD', 'Budget', 'What may be spent on what in a year.'],
    ],
    Meetings: [
      ['AGE', 'Agenda', 'What a meeting will speak about, sent beforehand.'],
      ['PRS', 'Presentation', 'Slides that were shown and count as a record.'],
      ['NTC', 'Notice', 'What is told to everyone, with its last day.'],
      ['DEC', 'Decision', 'What was decided outside a meeting, by whom and why.'],
    ],
    People: [
      ['JOB', 'Job description', 'Tasks, duties and what somebody must know.'],
      ['TRN', 'Training plan', 'Who learns what by when.'],
      ['CER', 'Certificate of a person', 'A licence or proof of training with its last day.'],
      ['INT', 'Introduction for new joiners', 'What somebody reads and sees in the first weeks.'],
    ],
  },
  Operation: {
    Running: [
      ['TIM', 'Timetable', 'Hours of operation, by season and weekday.'],
      ['ORD', 'Operating order', 'An order for some days, such as a night run.'],
      ['LOG', 'Operating log', 'What happened in a day, hour by hour.'],
      ['SIG', 'Signage plan', 'Which sign hangs where, with its text.'],
      ['WTH', 'Weather rule', 'At which wind, ice or lightning the line slows or stops.'],
    ],
    Guests: [
      ['TAR', 'Tariff', 'Prices and to whom they apply.'],
      ['TRM', 'Terms of carriage', 'What the organisation and its guests owe each other.'],
      ['CMP', 'Complaint', 'What a guest wrote, and what was answered.'],
      ['LST', 'Lost and found', 'What was found, where it lies and who fetched it.'],
    ],
    Rescue: [
      ['RES', 'Rescue plan', 'How guests come down from a section, with times.'],
      ['ALM', 'Alarm list', 'Who is called in which order.'],
      ['DRL', 'Drill record', 'Who practised what, and how long it took.'],
      ['EQP', 'Rescue equipment list', 'What hangs where, with its day of inspection.'],
    ],
  },
  Maintenance: {
    Planning: [
      ['MPL', 'Maintenance plan', 'What is done at which interval.'],
      ['LUB', 'Lubrication chart', 'Points, grease and intervals.'],
      ['SHD', 'Shutdown plan', 'The weeks without operation, task by task.'],
      ['SPR', 'Spare parts list', 'Parts kept in store, with the least number.'],
    ],
    Doing: [
      ['CHK', 'Check list', 'Points to tick, with limits.'],
      ['TOR', 'Torque table', 'Bolts, torques and tools.'],
      ['WPT', 'Permit to work', 'What must be safe before work begins.'],
      ['LCK', 'Locking plan', 'What is switched off and locked, and by whom.'],
    ],
    Findings: [
      ['DEF', 'Defect report', 'What was found broken, with pictures.'],
      ['NDT', 'Non-destructive test', 'What a test without harm showed, point by point.'],
      ['OVH', 'Overhaul record', 'What was renewed, measured and signed.'],
      ['OIL', 'Oil analysis', 'What a sample of oil or grease showed.'],
    ],
  },
  Engineering: {
    Requirements: [
      ['REQ', 'Requirement', 'What the ropeway must do, testable.'],
      ['NRM', 'Standard that applies', 'A standard from outside with its edition.'],
      ['RSK', 'Risk assessment', 'Hazards, measures and what is left.'],
    ],
    Calculation: [
      ['CAL', 'Calculation', 'Assumptions, method, result and its check.'],
      ['ROP', 'Rope line calculation', 'Sag, tension and clearance along the line.'],
      ['FEM', 'Strength proof', 'A model, its loads and where it is near its limit.'],
      ['FND', 'Foundation proof', 'Ground, loads and what the foundation bears.'],
    ],
    Drawings: [
      ['SCH', 'Circuit diagram', 'What is connected to what.'],
      ['HYD', 'Hydraulic diagram', 'Pumps, valves and pressures.'],
      ['LAY', 'Layout', 'Where things stand in a building or on the line.'],
      ['DET', 'Detail drawing', 'One part with all its dimensions.'],
      ['MOD', 'Model', 'A body in space, to measure and to mill by.'],
    ],
    Lists: [
      ['BOM', 'Parts list', 'Parts with numbers, material and amount.'],
      ['CAB', 'Cable list', 'Cables from where to where.'],
      ['IOL', 'Signal list', 'Signals of the control with their limits.'],
    ],
    Software: [
      ['SWS', 'Software description', 'What the control does, in words.'],
      ['PAR', 'Parameter set', 'Values of the control, with who may change them.'],
      ['REL', 'Release note', 'What is new in a version of the control.'],
      ['TST', 'Test protocol of a control', 'Cases, expected and seen, signed.'],
    ],
  },
  'Safety and quality': {
    Rules: [
      ['MAN', 'Management manual', 'How the organisation is led, chapter by chapter.'],
      ['PRC', 'Process description', 'Inputs, steps, outputs and who answers for them.'],
    ],
    Proof: [
      ['AUD', 'Audit report', 'What an audit found, good and bad.'],
      ['CAP', 'Corrective action', 'What was wrong, why, and what was done.'],
      ['KPI', 'Quality figures', 'Measured, with goal and trend.'],
      ['INC', 'Incident report', 'What happened, told without blame.'],
    ],
    Authority: [
      ['LIC', 'Operating licence', 'What the authority allows, with its conditions.'],
      ['APL', 'Application', 'What was asked of an authority.'],
      ['LTR', 'Letter of an authority', 'What an authority wrote.'],
      ['INS', 'Inspection by an authority', 'What an inspector saw, with days to mend it.'],
    ],
  },
  Purchasing: {
    Orders: [
      ['ENQ', 'Enquiry', 'What was asked of suppliers.'],
      ['OFF', 'Offer', 'What a supplier offered, and until when.'],
      ['PUR', 'Purchase order', 'What was ordered, at which price.'],
      ['DLV', 'Delivery record', 'What came, counted and looked at.'],
    ],
    Suppliers: [
      ['EVA', 'Supplier evaluation', 'How a supplier did, with marks.'],
      ['DCL', 'Declaration', 'What a supplier declares of a product.'],
      ['MTC', 'Material certificate', 'What a melt or a batch was tested for.'],
    ],
  },
  Projects: {
    Start: [
      ['BRF', 'Project brief', 'What for, for whom, by when, for how much.'],
      ['SCP', 'Scope of supply', 'What is delivered and what is not.'],
    ],
    Course: [
      ['SCD', 'Schedule', 'Tasks and their days.'],
      ['PGR', 'Progress report', 'Where the project stands.'],
      ['CHG', 'Change request', 'What somebody wants changed, with cost.'],
    ],
    End: [
      ['ACC', 'Acceptance record', 'What was shown, and what is still owed.'],
      ['OMM', 'Operation and maintenance manual', 'What the client gets to run it by.'],
    ],
  },
};

/** What belongs to a project is filed with its client, in a folder that is made when it is missing. */
const OF_PROJECTS: Pick<Type, 'fields' | 'filing'> = {
  fields: [
    {
      key: 'project',
      label: 'Project',
      kind: 'entry',
      list: 'project',
      fills: { client: 'client' },
      mandatory: true,
      level: 'document',
    },
    { key: 'client', label: 'Client', kind: 'text', mandatory: true, level: 'document' },
  ],
  filing: 'Projects / {field:client} / {group}',
};

/** Types of the classification that are ready and that nobody has used yet; they are numbered and routed like the usual ones. */
export const unusedTypes = (route: Type['route']): Type[] =>
  Object.entries(CLASSIFICATION).flatMap(([family, groups]) =>
    Object.entries(groups).flatMap(([group, types]) =>
      types.map(([code, name, help]) => ({
        code,
        name,
        family,
        group,
        help,
        numbering: 'THR-{type}-{counter:4}',
        scheme: { kind: 'letters' as const },
        fields: [],
        route,
        ...(family === 'Projects' ? OF_PROJECTS : {}),
      })),
    ),
  );
