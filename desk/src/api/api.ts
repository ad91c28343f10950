// The web process's resources, with types generated from its own description.
import type { components } from './api-types'
import { call, download, nameOf, upload } from './call'

export { nameOf, Refusal, underWay } from './call'

type Schemas = components['schemas']
export type Show = Schemas['Show']
export type ShowState = Schemas['ShowState']
export type Part = Show['lamps'][number]['fixture']
export type Route = Show['routes'][number]
export type Input = NonNullable<Show['inputs']>[number]
export type SoundDevice = Schemas['SoundDevice']
export type Band = Show['bands'][number]
export type Layout = Schemas['Layout']
export type Plan = Schemas['Plan']
export type ParameterIndex = Schemas['ParameterIndex']
export type Rules = Schemas['Rules']
export type SignalInfo = Schemas['SignalInfo']
export type Parameter = Schemas['Parameter']
export type KindInfo = Schemas['KindInfo']
export type Track = Schemas['Track']
export type ShowSummary = Schemas['ShowSummary']
export type Edit = Schemas['EditRequest']['edit']
export type Reason = Schemas['Reason']
export type KeptPreset = Schemas['KeptPreset']
export type Scope = KeptPreset['scope']
export type Modulator = NonNullable<Show['modulators']>[number]
export type Lamp = NonNullable<Show['lamps']>[number]
export type Group = NonNullable<Show['groups']>[number]
export type Palette = Required<NonNullable<Show['palettes']>[number]>
export type Chase = NonNullable<Show['chases']>[number]
export type LightOutput = NonNullable<Show['light_outputs']>[number]
export type Output = NonNullable<Show['outputs']>[number]
export type FlashReport = Schemas['FlashReport']
export type OutputState = Schemas['OutputState']
export type Wall = NonNullable<Output['walls']>[number]
export type Mask = NonNullable<Output['masks']>[number]
export type Clash = Schemas['ClashInfo']
export type ChannelRow = Schemas['ChannelRow']
export type PageEvent = Schemas['Act']['event']
export type Cue = NonNullable<Show['cues']>[number]
export type Song = NonNullable<Show['songs']>[number]
export type PadPage = NonNullable<Show['pages']>[number]
export type Pad = NonNullable<PadPage['pads']>[number]
export type Fader = NonNullable<PadPage['faders']>[number]
export type Mapping = NonNullable<Show['mappings']>[number]
export type CueTold = Schemas['CueTold']
export type LearnAsked = Extract<PageEvent, { event: 'learn-asked' }>
export type MappingSet = Schemas['MappingSet']
export type Made = Schemas['Copied']

export type HitSetting = NonNullable<Show['hits']>[number]
export type BeatTurn = Schemas['BeatTurn']

type Progress = (share: number) => void

/** Lamps, chosen by their ids in order. */
const lamps = {
  hang: (wanted: Partial<Schemas['NewLamps']> & { kind: string }) =>
    call<Schemas['Made']>('POST', '/lamps', wanted),
  takeDown: (ids: string[]) => call<void>('POST', '/lamps/removal', { ids }),
  exchange: (ids: string[], kind: string, mode = '', pixels = 0) =>
    call<void>('POST', '/lamps/kind', { ids, kind, mode, pixels }),
  address: (ids: string[], at = '', gap = 0) => call<void>('POST', '/lamps/address', { ids, at, gap }),
  arrange: (ids: string[], how: Schemas['Arranged']['how'], view: 'front' | 'top') =>
    call<void>('POST', '/lamps/arrangement', { ids, how, view }),
  place: (ids: string[], points: [number, number][], view: 'front' | 'top', gesture: string) =>
    call<void>('POST', '/lamps/places', { ids, points, view, gesture }),
  set: (ids: string[], name: string, to: { value?: unknown; by?: number }, gesture = '') =>
    call<void>('POST', '/lamps/function', { ids, name, ...to, gesture }),
  home: (ids: string[]) => call<void>('POST', '/lamps/home', { ids }),
  park: (ids: string[], name: string, value: unknown) =>
    call<void>('POST', '/lamps/parking', { ids, name, value }),
  curve: (answer: Part) => call<number[]>('POST', '/light-curves', { answer }),
  clashes: () => call<Clash[]>('GET', '/lamps/clashes'),
  switches: (address: number) => call<boolean[]>('GET', `/switches?address=${address}`),
  reach: (ids: string[], colour: string) =>
    call<Schemas['ReachedColour'][]>('POST', `/lamps/reach?colour=${encodeURIComponent(colour)}`, { ids }),
  group: (ids: string[], name = '') => call<Schemas['Created']>('POST', '/groups', { ids, name }),
  ungroup: (group: string) => call<void>('DELETE', `/groups/${group}`),
}
const palettes = {
  keep: (ids: string[], kind: Palette['kind'], name = '', colours: string[] = []) =>
    call<Schemas['Created']>('POST', '/palettes', { ids, kind, name, colours }),
  merge: (palette: string, ids: string[]) => call<void>('POST', `/palettes/${palette}/merge`, { ids }),
  recolour: (palette: string, index: number, colour: string, gesture: string) =>
    call<void>('PUT', `/palettes/${palette}/colour`, { index, colour, gesture }),
  recall: (palette: string, ids: string[], over: { over_ms?: number; over_beats?: number } = {}) =>
    call<Schemas['Recalled']>('POST', `/palettes/${palette}/recall`, { ids, ...over }),
  use: (palette: string, over: { over_ms?: number; over_beats?: number } = {}) =>
    call<void>('POST', `/palettes/${palette}/use`, over),
  remove: (palette: string) => call<void>('DELETE', `/palettes/${palette}`),
}
const chases = {
  add: (groups: string[], name = '', values: object = {}) =>
    call<Schemas['Created']>('POST', '/chases', { groups, name, values }),
  runOn: (chase: string, group: string) => call<void>('POST', `/chases/${chase}/runs`, { group }),
  copy: (chase: string, group: string, name = '') =>
    call<Schemas['Created']>('POST', `/chases/${chase}/copies`, { group, name }),
  run: (chase: string, running: boolean, group = '') =>
    call<void>('PUT', `/chases/${chase}/running`, { running, group }),
}
const wire = {
  sheet: (universe: number) => call<ChannelRow[]>('GET', `/universes/${universe}`),
  cards: () => call<Schemas['NetworkCard'][]>('GET', '/network-cards'),
  addOutput: (protocol: 'sacn' | 'art-net') =>
    call<Schemas['Created']>('POST', '/light-outputs', { protocol }),
  tellRig: () => call<Schemas['Told']>('PUT', '/rig-file'),
}

const pages = {
  add: (name = '') => call<Schemas['Created']>('POST', '/pages', { name }),
  addPad: (page: string, at: number, kind: string, values: object = {}) =>
    call<Schemas['Created']>('POST', `/pages/${page}/pads`, { at, kind, values }),
  addAction: (pad: string, kind: string, values: object = {}) =>
    call<void>('POST', `/pads/${pad}/actions`, { kind, values }),
  becomeAction: (pad: string, action: string, kind: string) =>
    call<void>('PUT', `/pads/${pad}/actions/${action}`, { kind }),
  movePad: (pad: string, at: number) => call<void>('PUT', `/pads/${pad}/at`, { at }),
  addFader: (page: string, at: number, target: string) =>
    call<Schemas['Created']>('POST', `/pages/${page}/faders`, { at, target }),
}
const cues = {
  add: (wanted: Partial<Schemas['NewCue']>) => call<Schemas['Created']>('POST', '/cues', wanted),
  recall: (cue = '') => call<void>('POST', '/cues/recall', { cue }),
  words: (ids: string[] = []) => call<Record<string, CueTold>>('GET', `/cues/words?ids=${ids.join()}`),
  picture: (cue: string, at = 0) => `/api/v1/cues/${cue}/picture?at=${at}`,
}
const songs = {
  add: (wanted: Partial<Schemas['NewSong']>) => call<Schemas['Created']>('POST', '/songs', wanted),
  remove: (song: string) => call<Schemas['EditAnswer']>('DELETE', `/songs/${song}`),
}
const controller = (name: string): string => `controller=${encodeURIComponent(name)}`
const mappings = {
  learn: (wanted: Partial<LearnAsked>) =>
    call<void>('PUT', '/mappings/learning', { event: 'learn-asked', ...wanted }),
  conflicts: () => call<Record<string, string[]>>('GET', '/mappings/conflicts'),
  set: (name: string) => call<MappingSet>('GET', `/mappings/set?${controller(name)}`),
  take: (set: MappingSet) => call<Schemas['EditAnswer']>('PUT', '/mappings/set', set),
  kept: () => call<string[]>('GET', '/mappings/kept'),
  keep: (name: string) => call<void>('PUT', `/mappings/kept?${controller(name)}`),
  takeKept: (name: string) => call<Schemas['EditAnswer']>('POST', `/mappings/kept?${controller(name)}`),
}

const outputs = {
  add: (name = '', overlay = false) => call<Schemas['Created']>('POST', '/outputs', { name, overlay }),
  remove: (output: string) => call<void>('DELETE', `/outputs/${output}`),
  rename: (output: string, text: string) => call<void>('PUT', `/outputs/${output}/name`, { text }),
  readdress: (output: string, text: string) => call<void>('PUT', `/outputs/${output}/address`, { text }),
  copy: (output: string) => call<Schemas['Created']>('POST', `/outputs/${output}/copies`),
  fitLike: (output: string, like: string) => call<void>('PUT', `/outputs/${output}/fitting`, { like }),
  straighten: (output: string) => call<void>('DELETE', `/outputs/${output}/fitting`),
  addWall: (output: string) => call<Schemas['Created']>('POST', `/outputs/${output}/walls`, {}),
  bend: (output: string, wall: string, columns: number, rows: number) =>
    call<void>('PUT', `/outputs/${output}/walls/${wall}/grid`, { columns, rows }),
  addMask: (output: string, shape: Schemas['NewMask']['shape']) =>
    call<Schemas['Created']>('POST', `/outputs/${output}/masks`, { shape }),
  identify: (output: string) => call<void>('POST', `/outputs/${output}/identify`),
  plan: (output: string) => call<Plan>('GET', `/outputs/${output}/plan`),
}

const copies = {
  clip: (paths: string[]) => call<Schemas['Clipping']>('POST', '/copies', { paths }),
  double: (paths: string[]) => call<Made>('POST', '/copies/twins', { paths }),
  paste: (text: string, where: string) =>
    call<Made>('POST', `/copies/pasted?where=${encodeURIComponent(where)}`, new Blob([text])),
}
const guard = {
  report: (look: string, track: string, seconds: number) =>
    call<FlashReport>('POST', '/guard/report', { look, track, seconds }),
}

export const api = {
  pages,
  outputs,
  guard,
  copies,
  cues,
  songs,
  mappings,
  addTrack: (file: File, onProgress: Progress, signal: AbortSignal) =>
    upload<Track>(`/tracks?title=${encodeURIComponent(nameOf(file, 'Track'))}`, file, onProgress, signal),
  addClip: (file: File, sound: boolean, onProgress: Progress, signal: AbortSignal) =>
    upload<Schemas['ImportedClip']>(
      `/clips?name=${encodeURIComponent(nameOf(file, 'Clip'))}&sound=${sound}`,
      file,
      onProgress,
      signal,
    ),
  waveform: (track: string) =>
    call<Schemas['TrackOutline']>('GET', `/tracks/${encodeURIComponent(track)}/waveform`),
  removeTrack: (track: string) => call<void>('DELETE', `/tracks/${encodeURIComponent(track)}`),
  turnBeat: (what: BeatTurn['what'], milliseconds = 0) => call<void>('POST', '/beat', { what, milliseconds }),
  listenToRoom: (input: string) => call<void>('POST', `/room?input=${input}`),
  record: (input: string, on: boolean) => call<void>('PUT', `/inputs/${input}/recording`, { on }),
  rhythm: (track: string) => call<Schemas['Rhythm']>('GET', `/tracks/${encodeURIComponent(track)}/rhythm`),
  analysis: download,
  lamps,
  palettes,
  chases,
  wire,
  addInput: () => call<Schemas['Created']>('POST', '/inputs', {}),
  removeInput: (input: string) => call<Schemas['EditAnswer']>('DELETE', `/inputs/${input}`),
  devices: () => call<SoundDevice[]>('GET', '/devices'),
  addBand: (input: string, low_hz: number, high_hz: number, name = '') =>
    call<Schemas['Created']>('POST', '/bands', { input, low_hz, high_hz, name }),
  removeBand: (band: string) => call<Schemas['EditAnswer']>('DELETE', `/bands/${band}`),
  catchHits: (band: string, on: boolean) => call<Schemas['EditAnswer']>('PUT', `/bands/${band}/hits`, { on }),
  addRoute: (signal: string, targets: string[], wish?: Schemas['Wish']) =>
    call<Schemas['Created']>('POST', '/routes', { signal, targets, wish }),
  leadOn: (route: string, targets: string[]) => call<void>('POST', `/routes/${route}/targets`, { targets }),
  leadNoMore: (route: string, target: string) =>
    call<void>('DELETE', `/routes/${route}/targets?target=${encodeURIComponent(target)}`),
  takeTurns: (route: string) => call<void>('PUT', `/routes/${route}/turns`),
  exchange: (route: string, end: { signal?: string; target?: string; by?: string }) =>
    call<void>('PUT', `/routes/${route}/ends`, end),
  understood: (text: string) =>
    call<Schemas['Meaning'][]>('GET', `/routes/understood?text=${encodeURIComponent(text)}`),
  mix: (target: string, how: Schemas['Mixed']['how']) =>
    call<Schemas['EditAnswer']>('PUT', '/mixes', { target, how }),
  fit: (route: string, shaper: string) =>
    call<Schemas['Fitted']>('POST', `/routes/${route}/shapers/${shaper}/fit`),
  addRamp: (name = '', like = '') => call<Schemas['Created']>('POST', '/ramps', { name, like }),
  addStop: (ramp: string, place: number) => call<void>('POST', `/ramps/${ramp}/stops`, { place }),
  removeStop: (ramp: string, number: number) => call<void>('DELETE', `/ramps/${ramp}/stops/${number}`),
  removeRamp: (ramp: string) => call<void>('DELETE', `/ramps/${ramp}`),
  addModulator: (kind: string) => call<Schemas['Created']>('POST', '/modulators', { kind }),
  keepChain: (route: string, name: string) => call<Schemas['Created']>('POST', '/chains', { route, name }),
  takeChain: (chain: string, route: string) =>
    call<Schemas['EditAnswer']>('POST', `/chains/${chain}/take`, { route }),
  chainUsers: (chain: string) => call<string[]>('GET', `/chains/${chain}/users`),
  changeChain: (chain: string, route: string, users: boolean) =>
    call<Schemas['EditAnswer']>('PUT', `/chains/${chain}`, { route, users }),
  presets: (scope: Scope, address: string) =>
    call<KeptPreset[]>('GET', `/presets?scope=${scope}&address=${encodeURIComponent(address)}`),
  allPresets: () => call<KeptPreset[]>('GET', '/presets'),
  keepPreset: (scope: Scope, address: string, name: string) =>
    call<Schemas['Created']>('POST', '/presets', { scope, address, name }),
  updatePreset: (id: string) => call<Schemas['EditAnswer']>('PUT', `/presets/${id}`),
  removePreset: (id: string) => call<Schemas['EditAnswer']>('DELETE', `/presets/${id}`),
  recallPreset: (id: string, how: { address?: string; glide_ms?: number; glide_beats?: number }) =>
    call<Schemas['EditAnswer']>('POST', `/presets/${id}/recall`, how),
  handOnly: (scope: Scope, address: string) =>
    call<Schemas['EditAnswer']>('POST', '/presets/hand-only', { scope, address }),
  comparePreset: (id: string) => call<Schemas['EditAnswer']>('POST', `/presets/${id}/compare`),
  why: (what: 'route' | 'parameter' | 'signal', address: string) =>
    call<Reason[]>('GET', `/why/${what}/${encodeURIComponent(address)}`),
  show: () => call<ShowState>('GET', '/show'),
  addLook: (name: string, of = '') => call<Schemas['Created']>('POST', '/looks', { name, of }),
  removeLook: (look: string) => call<Schemas['EditAnswer']>('DELETE', `/looks/${look}`),
  addPicture: (file: File) =>
    call<Schemas['Created']>('POST', `/pictures?name=${encodeURIComponent(nameOf(file, 'Picture'))}`, file),
  setCode: (path: string, code: string) => call<Schemas['Checked']>('PUT', '/code', { path, code }),
  thumbnail: (look: string, layer = '', at = 0) => `/api/v1/looks/${look}/thumbnail?layer=${layer}&at=${at}`,
  kindPicture: (family: string, kind: string, at = 0) => `/api/v1/kinds/${family}/${kind}/picture?at=${at}`,
  addLayer: (look: string, source: string) =>
    call<Schemas['Created']>('POST', `/looks/${look}/layers`, { source }),
  addEffect: (holder: string, kind: string) => call<Schemas['Created']>('POST', '/effects', { holder, kind }),
  removePart: (path: string) =>
    call<Schemas['EditAnswer']>('DELETE', `/parts?path=${encodeURIComponent(path)}`),
  bandPresets: () => call<string[]>('GET', '/bands/presets'),
  takeBandPreset: (input: string, name: string) =>
    call<Schemas['EditAnswer']>('POST', `/bands/presets/${encodeURIComponent(name)}?input=${input}`),
  findBand: (input: string, t: number, hz: number) =>
    call<Schemas['FoundBand']>('POST', '/bands/find', { input, t, hz }),
  kinds: () => call<KindInfo[]>('GET', '/kinds'),
  rules: () => call<Rules>('GET', '/rules'),
  tracks: () => call<Track[]>('GET', '/tracks'),
  shows: () => call<ShowSummary[]>('GET', '/shows'),
  createShow: (name: string) => call<ShowState>('POST', '/shows', { name }),
  openShow: (id: number) => call<ShowState>('POST', `/shows/${id}/open`),
  edit: (edit: Edit, name: string, gesture: string, glide_ms = 0, glide_beats = 0) =>
    call<Schemas['EditAnswer']>('POST', '/show/edits', { edit, name, gesture, glide_ms, glide_beats }),
  step: (which: 'undo' | 'redo') => call<Schemas['EditAnswer']>('POST', `/show/${which}`),
  seek: (input: string, seconds: number) => call<void>('POST', '/transport/seek', { input, seconds }),
}
