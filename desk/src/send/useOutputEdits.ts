// Edits of one output.
import type { Output } from '../api/api'
import { useShow } from '../live/show'

export function useOutputEdits(output: () => Output) {
  const show = useShow()
  const path = (name: string): string => `/outputs/${output().id}/${name}`
  return {
    set: (name: string, value: unknown, gesture = ''): void => show.set(path(name), value, 'Output', gesture),
    turn: (name: 'frozen' | 'black'): void =>
      show.set(path(name), !output()[name], name === 'black' ? 'Black output' : 'Freeze output'),
    remove: (name: string): void => show.edit({ edit: 'remove', path: path(name) }, 'Remove'),
    /** Whether a request was granted; what was wrong is said. */
    async done(asked: Promise<unknown>): Promise<boolean> {
      try {
        await asked
        return true
      } catch (error) {
        show.complain(error)
        return false
      }
    },
  }
}
