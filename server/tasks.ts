/** Every task that threads can be asked for, by name. */
import { perform, type Asked, type Done, type Task } from './base/threads.ts';
import { controlTask, summariseTask } from './correct/tasks.ts';
import { joinTask, pieceTask, readAirTask, readPullTask, splitTask } from './capture/tasks.ts';
import { analyseTask, byStandardTask, byUseTask, inWindowTask } from './judge/tasks.ts';
import { readTableTask } from './register/tasks.ts';

const tasks = new Map(
  [
    readPullTask,
    readAirTask,
    splitTask,
    pieceTask,
    joinTask,
    summariseTask,
    controlTask,
    readTableTask,
    analyseTask,
    byStandardTask,
    inWindowTask,
    byUseTask,
  ].map((task) => [task.name, task as unknown as Task<never[], unknown>]),
);

/** What a thread is given and gives back; the default export is what it calls. */
export default (asked: Asked): Promise<Done> => perform(tasks, asked);
