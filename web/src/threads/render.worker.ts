import { expose } from 'comlink'
import { threadOf } from '../background/serve'
import { chartTasks } from './charts'
import { levelTasks } from './levels'
import { measuringTasks } from './measures'
import { playingTasks } from './playing'

const tasks = { ...measuringTasks, ...levelTasks, ...chartTasks, ...playingTasks }

export type RenderTasks = typeof tasks
expose(threadOf(tasks))
