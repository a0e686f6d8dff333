/** Everybody at Tern Point Nautical School is invented. */
export const instructors = [
  { name: 'Ingrid Sollie', email: 'ingrid.sollie@ternpoint.example' },
  { name: 'Mateus Okonjo', email: 'mateus.okonjo@ternpoint.example' },
];
export const marker = { name: 'Petra Lindqvist-Rao', email: 'petra.lindqvist@ternpoint.example' };
export const guest = { name: 'Harbour Office', email: 'guest@ternpoint.example' };

/** Name, section, ability on a scale where 0 is the middle and 1 is strong. */
export const students: [name: string, section: 'Weekday' | 'Evening', ability: number][] = [
  ['Aisha Benhaddou', 'Weekday', 1.2],
  ['Anselm Vogtland', 'Weekday', -0.4],
  ['Birgit Aasland', 'Evening', 0.3],
  ['Chidi Ezeamaka', 'Weekday', 0.8],
  ['Daria Kowalenko', 'Evening', -0.2],
  ['Diego Marrón Iturbe', 'Weekday', 0.1],
  ['Eilidh MacRannoch', 'Evening', 1.5],
  ['Farid Tahmasebi', 'Weekday', -0.9],
  ['Giulia Sartorel', 'Evening', 0.5],
  ['Hana Mizushiro', 'Weekday', 1.0],
  ['Ibrahim Dialloubé', 'Evening', -0.1],
  ['Jonas Brekkhus', 'Weekday', -1.3],
  ['Kateryna Holubenko', 'Weekday', 0.7],
  ['Keoni Kahananui', 'Evening', 0.0],
  ['Leila Farsakh-Weiss', 'Weekday', 0.4],
  ['Linh Trần Bảo', 'Evening', 0.9],
  ['Marguerite de Kerguelen-Post', 'Weekday', -0.6],
  ['Mikkel Thorup', 'Evening', 0.2],
  ['Nadia Ouedraogo', 'Weekday', 0.6],
  ['Noor van der Meulenbroek', 'Evening', -0.5],
  ['Oluwaseun Adebanke', 'Weekday', 1.1],
  ['Pilar Etxeberri', 'Evening', -0.3],
  ['Rasmus Kivelä', 'Weekday', 0.0],
  ['Saanvi Deshmukhe', 'Evening', 0.8],
  ['Tomasz Wieczorny', 'Weekday', -0.8],
  ['Uyanga Batsükh', 'Evening', 0.3],
  ['Yusuf Karadereli', 'Weekday', -0.1],
  ['Zoë Papathanou', 'Evening', 0.6],
];

export const emailOf = (name: string): string =>
  `${name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/ł/g, 'l')
    .toLowerCase()
    .replace(/[^a-z]+/g, '.')
    .replace(/^\.|\.$/g, '')}@ternpoint.example`;
