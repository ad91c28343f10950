let count = 0
/** A name for one drag, so that all its edits are one step for undo. */
export const newGesture = (): string => `${Date.now().toString(36)}-${count++}`
