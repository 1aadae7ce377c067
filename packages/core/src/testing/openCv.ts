import { createRequire } from 'node:module';
import type CvModule from '@techstark/opencv-js';

export type Cv = typeof CvModule;

let loading: Promise<{ cv: Cv }> | null = null;

/** OpenCV (@techstark/opencv-js 4.12.0-release.1), the reference for filters. In a box: the module itself looks like a promise. */
export function loadOpenCv(): Promise<{ cv: Cv }> {
  loading ??= new Promise((resolve) => {
    const cv = createRequire(import.meta.url)('@techstark/opencv-js') as Cv & {
      Mat?: unknown;
      onRuntimeInitialized?: () => void;
    };
    if (cv.Mat) resolve({ cv });
    else cv.onRuntimeInitialized = () => resolve({ cv });
  });
  return loading;
}
