export { main } from './main.ts';
export { findAmongThreads } from './threads/examineInThreads.ts';
export { shareAmongThreads } from './threads/mendInThreads.ts';
export { renderAmongThreads } from './threads/renderInThreads.ts';
export { startThreads } from './threads/threads.ts';
