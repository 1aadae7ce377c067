import { serveTasks } from '@fennip/threads/tasks';
import { tasks } from './tasks.ts';

/** Runs in a thread of its own. */
export default serveTasks(tasks);
