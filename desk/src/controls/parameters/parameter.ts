// What every control of a parameter is given, and what it says.
import type { Parameter } from '../../api/api'

export type Value = number | string | boolean | number[] | [number, number][]

export interface ControlProps {
  parameter: Parameter
  value: Value
  /** Its address; none for what no route can move. */
  target?: string
  /** Path of its part, for what is not changed by a plain edit. */
  path?: string
  /** Place in the live block; none when nothing can move it. */
  index?: number
  /** In little room. */
  small?: boolean
  /** What moves it: the first gives the bar its colour. */
  modulators?: { name: string; colour: string; why: string }[]
}
export interface ControlEmits {
  change: [value: Value, gesture: string]
}
