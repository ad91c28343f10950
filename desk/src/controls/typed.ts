// Numbers as hands type them: with units, in sums, in decibels or beats.

export interface TypedAs {
  unit: string
  /** Seconds from one beat to the next. */
  beatS?: number
}
/** Times a value has in its unit's base: seconds, hertz. */
const FACTORS: Record<string, Record<string, number>> = {
  ms: { ms: 1, s: 1000 },
  s: { s: 1, ms: 0.001 },
  Hz: { hz: 1, khz: 1000, k: 1000 },
}

/** One value with its unit, in the unit that is wanted; undefined for a unit that does not belong there. */
function inUnit(value: number, said: string, { unit, beatS = 0.5 }: TypedAs): number | undefined {
  if (!said || said === unit.toLowerCase()) return value
  if (said === 'db') return unit === '' || unit === '×' ? 10 ** (value / 20) : levelUnit(value, unit)
  if (said === '%') return unit === '' || unit === '×' ? value / 100 : undefined
  if (said.startsWith('beat')) {
    if (unit === 'beats') return value
    const seconds = { ms: 1000, s: 1 }[unit]
    return seconds && value * beatS * seconds
  }
  const factor = FACTORS[unit]?.[said]
  return factor === undefined ? undefined : value * factor
}
const levelUnit = (value: number, unit: string): number | undefined =>
  ['dB', 'dBFS', 'LUFS'].includes(unit) ? value : undefined

const TOKEN = /\s*(?:(\d+\.?\d*|\.\d+)\s*([a-z°%×]+)?|([-+*/()]))/iy

/**
 * What a typed number or sum is, in a unit; undefined for what is none. “1/3”, “2*0.04”, “-8 dB”, “2 beats”,
 * “0,5 s”.
 */
export function typedNumber(text: string, as: TypedAs): number | undefined {
  const plain = text
    .trim()
    .replaceAll(',', '.')
    .replaceAll('−', '-')
    .replace(/\/(s|min)\b/, '')
  // A unit at the end alone counts for all before it: “-8 dB” is no sum, and “1/4 beats” a quarter of one.
  const whole = /^([-+*/().\d\s]+?)\s*([a-z°%×]+)$/i.exec(plain)
  if (whole) {
    const value = summed(whole[1]!, { unit: '' })
    return value === undefined ? undefined : inUnit(value, whole[2]!.toLowerCase(), as)
  }
  return summed(plain, as)
}

function summed(text: string, as: TypedAs): number | undefined {
  const tokens = tokensOf(text, as)
  if (!tokens?.length) return undefined
  let at = 0
  const sum = (): number => {
    let value = product()
    while (tokens[at] === '+' || tokens[at] === '-') value += tokens[at++] === '+' ? product() : -product()
    return value
  }
  const product = (): number => {
    let value = single()
    while (tokens[at] === '*' || tokens[at] === '/')
      value = tokens[at++] === '*' ? value * single() : value / single()
    return value
  }
  const single = (): number => {
    const token = tokens[at++]
    if (typeof token === 'number') return token
    if (token === '-') return -single()
    if (token === '+') return single()
    if (token !== '(') return NaN
    const value = sum()
    return tokens[at++] === ')' ? value : NaN
  }
  const value = sum()
  return at === tokens.length && Number.isFinite(value) ? value : undefined
}

/** Numbers, each in the wanted unit, and signs; undefined where something is neither. */
function tokensOf(text: string, as: TypedAs): (number | string)[] | undefined {
  const found: (number | string)[] = []
  TOKEN.lastIndex = 0
  while (TOKEN.lastIndex < text.length) {
    const token = TOKEN.exec(text)
    if (!token) return undefined
    const value =
      token[1] === undefined ? token[3]! : inUnit(Number(token[1]), (token[2] ?? '').toLowerCase(), as)
    if (value === undefined) return undefined
    found.push(value)
  }
  return found
}

/** A level from 0 to 1 in decibels, as it is read beside it. */
export const inDecibels = (level: number): string =>
  level > 0.0005 ? `${(20 * Math.log10(level)).toFixed(level < 0.1 ? 0 : 1)} dB` : '−∞ dB'
