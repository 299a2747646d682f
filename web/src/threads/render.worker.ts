import { expose } from 'comlink'
import { threadOf } from '../background/serve'
import { chartTasks } from './charts'
import { runs } from './exchange'
import { guitarTasks } from './guitars'
import { levelTasks } from './levels'
import { measuringTasks } from './measures'
import { playingTasks } from './playing'
import { readingTasks } from './readings'
import { recordingTasks } from './recordings'
import { matchingTasks } from './matching'
import { referenceTasks } from './references'
import { showTasks } from './shows'
import { transferTasks } from './transfers'

const tasks = {
  ...measuringTasks,
  ...levelTasks,
  ...chartTasks,
  ...playingTasks,
  ...readingTasks,
  ...guitarTasks,
  ...recordingTasks,
  ...referenceTasks,
  ...matchingTasks,
  ...transferTasks,
  ...showTasks,
}

export type RenderTasks = typeof tasks
expose(threadOf(tasks, runs))
