// Which wall or mask of the opened output is being fitted.
import { reactive } from 'vue'

export const fitting = reactive<{ wall: string; mask: string }>({ wall: '', mask: '' })

export function chooseWall(id: string): void {
  ;[fitting.wall, fitting.mask] = [id, '']
}
export function chooseMask(id: string): void {
  ;[fitting.wall, fitting.mask] = ['', id]
}
