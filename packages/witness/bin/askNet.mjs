/*
 * Runs the net in a process of its own: the native library can be loaded by one thread of a process only, and takes the whole
 * process down when a thread that holds it ends.
 *
 *   node askNet.mjs FILE THREADS
 *
 * Says { ready: true } or { cause }; answers { id, planes, width, height } with { id, dims, data } or { id, cause }.
 */
import runtime from 'onnxruntime-node';

const [file, threads] = process.argv.slice(2);
process.on('disconnect', () => process.exit());

const said = (cause) => (cause instanceof Error ? cause.message : String(cause));

try {
  const session = await runtime.InferenceSession.create(file, {
    intraOpNumThreads: Number(threads),
    interOpNumThreads: 1,
    graphOptimizationLevel: 'all',
    executionProviders: ['cpu'],
  });
  process.on('message', async ({ id, planes, width, height }) => {
    try {
      const input = new runtime.Tensor('float32', planes, [
        1,
        planes.length / (width * height),
        height,
        width,
      ]);
      const { maps } = await session.run({ planes: input });
      process.send({ id, dims: [...maps.dims], data: maps.data });
    } catch (cause) {
      process.send({ id, cause: said(cause) });
    }
  });
  process.send({ ready: true });
} catch (cause) {
  process.send({ cause: said(cause) }, () => process.exit(1));
}
