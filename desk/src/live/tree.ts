// A document as plain data: places in it are named by paths, items of lists by their id.

/** A tree with one place changed: only what leads there is copied, all else stays the very same. */
export function withValue(tree: unknown, path: string, value: unknown): unknown {
  return changed(tree, path.split('/').filter(Boolean), value)
}

function changed(tree: unknown, steps: string[], value: unknown): unknown {
  const [step, ...rest] = steps
  if (step === undefined) return value
  if (Array.isArray(tree)) {
    if (!tree.some((item) => item.id === step)) return tree
    return tree.map((item) => (item.id === step ? changed(item, rest, value) : item))
  }
  const branch = tree as Record<string, unknown> | undefined
  return { ...branch, [step]: changed(branch?.[step], rest, value) }
}
