import { cellNoise } from './noise.ts';
import { march, normalAt, unit } from './march.ts';
import type { Light, Scene, Vector } from './scene.ts';

/** The sides of a picture and how many rays each way make one of its pixels. */
export interface Frame {
  readonly width: number;
  readonly height: number;
  readonly rays: number;
}

/** Follows one ray. */
function look(scene: Scene, direction: Vector): Light {
  const walked = march(scene, scene.eye, direction);
  if (!Number.isFinite(walked))
    return scene.between(scene.background(direction), scene.eye, direction, scene.far);
  const [x, y, z] = scene.eye.map((start, axis) => start + direction[axis] * walked);
  const normal = normalAt(scene, x, y, z, Math.max(0.0015, walked * 0.0004));
  const light = scene.shade({ x, y, z, normal, direction, distance: walked });
  return scene.between(light, scene.eye, direction, walked);
}

/** Renders rows `from` (included) to `to` (left out) to linear light, pixel after pixel, three values each. */
export function renderRows(scene: Scene, frame: Frame, from: number, to: number): Float32Array {
  const { width, height, rays } = frame;
  const ahead = unit(scene.lookAt.map((value, axis) => value - scene.eye[axis]) as Vector);
  const right = unit([ahead[2], 0, -ahead[0]]);
  const up: Vector = [
    ahead[1] * right[2] - ahead[2] * right[1],
    ahead[2] * right[0] - ahead[0] * right[2],
    ahead[0] * right[1] - ahead[1] * right[0],
  ];
  const rows = new Float32Array((to - from) * width * 3);
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      const onto = ((y - from) * width + x) * 3;
      for (let ray = 0; ray < rays * rays; ray++) {
        const px = x + ((ray % rays) + cellNoise(x, y, ray * 2)) / rays;
        const py = y + (Math.floor(ray / rays) + cellNoise(x, y, ray * 2 + 1)) / rays;
        const u = ((2 * px - width) / height) * scene.spread;
        const v = ((height - 2 * py) / height) * scene.spread;
        const light = look(
          scene,
          unit([
            ahead[0] + u * right[0] + v * up[0],
            ahead[1] + u * right[1] + v * up[1],
            ahead[2] + u * right[2] + v * up[2],
          ]),
        );
        for (let c = 0; c < 3; c++) rows[onto + c] += light[c] / (rays * rays);
      }
    }
  }
  return rows;
}
