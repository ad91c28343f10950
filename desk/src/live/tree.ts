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

/** The path of a part of the document, by its id; empty when it is not there. */
export function partPath(tree: unknown, id: string): string {
  if (Array.isArray(tree)) {
    for (const item of tree) {
      const found = partPath(item, id)
      if (found || isPart(item, id)) return `/${item.id}${found}`
    }
    return ''
  }
  if (!tree || typeof tree !== 'object') return ''
  for (const [name, branch] of Object.entries(tree)) {
    if (name === 'values') continue
    const found = partPath(branch, id)
    if (found || isPart(branch, id)) return `/${name}${found}`
  }
  return ''
}

const isPart = (item: unknown, id: string): boolean =>
  !!item && typeof item === 'object' && (item as { id?: string }).id === id && 'values' in item

/** Where a parameter's hand value stands in the document, by its address; empty for what is gone. */
export function valuePath(tree: unknown, target: string): string {
  const [id, name] = target.split('.') as [string, string]
  if (!id.includes('@')) {
    const part = partPath(tree, id)
    return part && `${part}/values/${name}`
  }
  const [what, first, second] = id.split('@')
  switch (what) {
    case 'show':
      return '/sound_amount'
    case 'level':
      return `/inputs/${first}/level/${name}`
    case 'step':
      return `/routes/${first}/shapers/${second}/values/${name}`
    default:
      return `/${what}s/${first}/${name}`
  }
}

/** What stands at a path; undefined where nothing does. */
export function valueAt(tree: unknown, path: string): unknown {
  return path
    .split('/')
    .filter(Boolean)
    .reduce<unknown>(
      (at, step) =>
        Array.isArray(at)
          ? at.find((item) => item.id === step)
          : (at as Record<string, unknown> | undefined)?.[step],
      tree,
    )
}
