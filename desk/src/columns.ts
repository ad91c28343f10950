export const COLUMNS = [
  { id: 'hear', title: 'Hear', key: '1' },
  { id: 'route', title: 'Route', key: '2' },
  { id: 'picture', title: 'Picture', key: '3' },
  { id: 'lights', title: 'Lights', key: '4' },
] as const
export type Column = (typeof COLUMNS)[number]['id']
/** What stands open: a column of the current, or in its place the playing surface or the wall of outputs. */
export type Place = Column | 'run' | 'send'
/** All that opens, with the key that opens it. */
export const PLACES = [
  ...COLUMNS,
  { id: 'run', title: 'Run', key: '5' },
  { id: 'send', title: 'Send', key: '6' },
] as const
