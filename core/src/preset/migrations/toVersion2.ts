import type { Json } from '@fulgor/core/document'

/**
 * Version 1 grew without its number: the first presets had no guitar, lanes had their levels as fields of their own and not as a strip of
 * parameters, and the page of single switches had another word. From version 2 on every preset has all of today's form.
 */
export function toVersion2(document: Json): Json {
  return {
    ...document,
    guitar: document.guitar ?? { name: 'Hot humbucker', hardPeakDbfs: -7, pickup: 'bridge' },
    chain: nodes(document.chain),
    ...(document.board === undefined ? {} : { board: board(document.board) }),
  }
}

const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)

function nodes(value: unknown, depth = 0): unknown {
  // what is no list, or deeper than lanes ever lay, is for the reader to refuse
  if (!Array.isArray(value) || depth > 4) return value
  return value.map((node: unknown) =>
    isObject(node) && Array.isArray(node.lanes) ? { ...node, lanes: node.lanes.map((l: unknown) => lane(l, depth + 1)) } : node,
  )
}

function lane(value: unknown, depth: number): unknown {
  if (!isObject(value)) return value
  const inside = { ...value, nodes: nodes(value.nodes, depth) }
  if (!('levelDb' in value) || 'params' in value) return inside
  const { levelDb, pan, inverted, mute, ...rest } = inside as Json
  return {
    ...rest,
    on: mute !== true,
    params: {
      level: levelDb,
      // it was −1 to 1
      ...(typeof pan === 'number' ? { pan: Math.round(pan * 100) } : {}),
      ...(inverted === true ? { polarity: 'inverted' } : {}),
    },
  }
}

function board(value: unknown): unknown {
  if (!isObject(value)) return value
  const page = (name: unknown) => (name === 'stomps' ? 'singles' : name)
  const switches = Array.isArray(value.switches)
    ? value.switches.map((own: unknown) => (isObject(own) ? { ...own, page: page(own.page) } : own))
    : value.switches
  return { ...value, start: page(value.start), switches }
}
