// The compiler's `for` tests at the top of each turn and jumps back from its end; the engine that runs the code keeps both jumps. Written as
// a test followed by `do … while` a turn has one. The sources keep the plain form; a loop with `continue`, which would skip the step, stays.
import { Node, NodeKind } from 'assemblyscript'

const bodies = ['statements', 'body', 'ifTrue', 'ifFalse', 'cases']

/** Rewrites the loops below a node, in place. @returns the node, or what stands in its place */
function rewritten(node) {
  if (!node || typeof node !== 'object') return node
  for (const key of bodies) {
    const below = node[key]
    if (Array.isArray(below)) below.forEach((one, i) => (below[i] = rewritten(one)))
    else if (below) node[key] = rewritten(below)
  }
  return node.kind === NodeKind.For && node.condition && !holdsContinue(node.body) ? asDo(node) : node
}

function holdsContinue(node) {
  if (!node || typeof node !== 'object') return false
  if (node.kind === NodeKind.Continue) return true
  return bodies.some((key) => [node[key]].flat().some(holdsContinue))
}

function asDo({ initializer, condition, incrementor, body, range }) {
  const step = incrementor ? [Node.createExpressionStatement(incrementor)] : []
  const turn = Node.createBlockStatement([body, ...step], range)
  const loop = Node.createIfStatement(condition, Node.createDoStatement(turn, condition, range), null, range)
  return Node.createBlockStatement([...(initializer ? [initializer] : []), loop], range)
}

export const loops = {
  afterParse(parser) {
    for (const source of parser.sources) if (!source.internalPath.startsWith('~lib/')) source.statements.forEach(rewritten)
  },
}
