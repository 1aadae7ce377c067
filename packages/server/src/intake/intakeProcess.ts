import { serveProcess } from '@fennip/threads/processTasks';
import { intakeTasks } from './intakeTasks.ts';

serveProcess(intakeTasks);
