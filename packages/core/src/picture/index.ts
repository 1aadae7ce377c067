export type { CaptureData } from './captureData.ts';
export type { DeliverySize } from './deliveredSides.ts';
export { deliveredSides } from './deliveredSides.ts';
export { PRINT_PPI, printSize } from './printSize.ts';
