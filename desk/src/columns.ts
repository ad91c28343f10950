export const COLUMNS = [
  { id: 'hear', title: 'Hear', key: '1' },
  { id: 'route', title: 'Route', key: '2' },
  { id: 'picture', title: 'Picture', key: '3' },
  { id: 'lights', title: 'Lights', key: '4' },
] as const
export type Column = (typeof COLUMNS)[number]['id']
