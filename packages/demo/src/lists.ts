import type { OrganisationDescription } from '@kanonos/server';

/** Choices that depend on one another: region, country, place. */
export const choices: NonNullable<OrganisationDescription['choices']> = [
  {
    key: 'region',
    name: 'Region',
    options: [
      { code: 'ALP', text: 'Alps' },
      { code: 'CAR', text: 'Carpathians' },
      { code: 'SCA', text: 'Scandes' },
    ],
  },
  {
    key: 'country',
    name: 'Country',
    dependsOn: 'region',
    options: [
      { code: 'CH', text: 'Switzerland', under: 'ALP' },
      { code: 'AT', text: 'Austria', under: 'ALP' },
      { code: 'IT', text: 'Italy', under: 'ALP' },
      { code: 'SK', text: 'Slovakia', under: 'CAR' },
      { code: 'RO', text: 'Romania', under: 'CAR' },
      { code: 'NO', text: 'Norway', under: 'SCA' },
      { code: 'SE', text: 'Sweden', under: 'SCA' },
    ],
  },
  {
    key: 'place',
    name: 'Place',
    dependsOn: 'country',
    options: [
      { code: 'TARN', text: 'Tarn Valley', under: 'CH' },
      { code: 'HOLT', text: 'Mid Holt', under: 'CH' },
      { code: 'SKARN', text: 'Skarn Peak', under: 'CH' },
      { code: 'OBERL', text: 'Oberlauf', under: 'AT' },
      { code: 'MONTR', text: 'Montera', under: 'IT' },
      { code: 'VYSNE', text: 'Vyšné pleso', under: 'SK' },
      { code: 'FJELL', text: 'Fjellstø', under: 'NO' },
      { code: 'OLDHUT', text: 'Old hut line', under: 'AT', retired: true },
    ],
  },
  {
    key: 'result',
    name: 'Result of a test',
    options: [
      { code: 'pass', text: 'passed' },
      { code: 'limits', text: 'passed with limits' },
      { code: 'fail', text: 'failed' },
    ],
  },
];

/** Lists whose entries have metadata of their own. */
export const lookups: NonNullable<OrganisationDescription['lookups']> = [
  {
    key: 'project',
    name: 'Projects',
    metadata: [
      { key: 'client', label: 'Client', kind: 'text' },
      { key: 'place', label: 'Place', kind: 'text' },
      { key: 'lead', label: 'Lead', kind: 'text' },
    ],
    entries: [
      ['P-2301', 'Second cabin line', 'Tarnholt Ropeways', 'Tarn Valley', 'Lin Sato'],
      ['P-2407', 'Tower 9 sheaves', 'Tarnholt Ropeways', 'Mid Holt', 'Joren Adeyemi'],
      ['P-2502', 'Lake line', 'Oberlauf Bergbahnen', 'Oberlauf', 'Lin Sato'],
      ['P-2503', 'Lake line, station', 'Oberlauf Bergbahnen', 'Oberlauf', 'Joren Adeyemi'],
      ['P-2511', 'Ridge line overhaul', 'Fjellstø Taubane', 'Fjellstø', 'Otto Brandvik'],
      ['P-2601', 'Winter lighting', 'Tarnholt Ropeways', 'Skarn Peak', 'Petra Lindqvist'],
    ].map(([code = '', name = '', client = '', place = '', lead = '']) => ({
      code,
      name,
      metadata: { client, place, lead },
    })),
  },
  {
    key: 'supplier',
    name: 'Suppliers',
    metadata: [
      { key: 'makes', label: 'Makes', kind: 'text' },
      { key: 'contact', label: 'Contact', kind: 'text' },
    ],
    entries: [
      ['BRN', 'Brennhof Castings', 'Grip bodies', 'Noor Castellan'],
      ['LOE', 'Loetz Ropes', 'Track and haul ropes', 'Sales desk'],
      ['VAR', 'Varden Drives', 'Motors and brakes', 'Ida Moen'],
      ['KEL', 'Kelm Cabins', 'Cabins and doors', 'Service desk'],
      ['NOR', 'Nordlys Controls', 'Controls and sensors', 'Support desk'],
    ].map(([code = '', name = '', makes = '', contact = '']) => ({ code, name, metadata: { makes, contact } })),
  },
];
