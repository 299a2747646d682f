import type { Json } from '@fulgor/core/document'

/**
 * A parametric EQ is flat from version 3 on; where a document left its slopes out, they were 12 dB an octave. From here on a preset may
 * also hold findings that were set aside.
 */
export function toVersion3(document: Json): Json {
  return { ...document, chain: nodes(document.chain) }
}

const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)

function nodes(value: unknown, depth = 0): unknown {
  // what is no list, or deeper than lanes ever lay, is for the reader to refuse
  if (!Array.isArray(value) || depth > 4) return value
  return value.map((node: unknown) => {
    if (!isObject(node)) return node
    if (Array.isArray(node.lanes))
      return { ...node, lanes: node.lanes.map((l: unknown) => (isObject(l) ? { ...l, nodes: nodes(l.nodes, depth + 1) } : l)) }
    if (node.model !== 'eq.parametric' || !isObject(node.params)) return node
    return { ...node, params: { lowSlope: '12', highSlope: '12', ...node.params } }
  })
}
