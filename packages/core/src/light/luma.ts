/** Weights of luma for red, green and blue: Rec. ITU-R BT.709-6, item 3.2. */
export const LUMA = [0.2126, 0.7152, 0.0722] as const;
