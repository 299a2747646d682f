import { expose } from 'comlink'
import { threadOf } from '../background/serve'
import { chartTasks } from './render/charts'
import { levelTasks } from './render/levels'
import { measuringTasks } from './render/measuring'
import { playingTasks } from './render/playing'

const tasks = { ...measuringTasks, ...levelTasks, ...chartTasks, ...playingTasks }

export type RenderTasks = typeof tasks
expose(threadOf(tasks))
