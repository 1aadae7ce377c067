export type { CaptureData } from './captureData.ts';
export type { DeliverySize } from './deliveredSides.ts';
export { deliveredSides } from './deliveredSides.ts';
export { PRINT_PPI, printSize } from './printSize.ts';
export type { WrittenFormat, WrittenFormatName } from './writtenFormats.ts';
export { WRITTEN_FORMATS, WRITTEN_FORMAT_NAMES, describeFormat } from './writtenFormats.ts';
