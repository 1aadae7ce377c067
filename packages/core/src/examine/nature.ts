/**
 * What a picture is. Each has flaws of its own: a camera frame has soft shadows of what lies before its sensor and discs of
 * what floats before its lens; a scanned print has hard dust, holes and lines through its emulsion, and can lose pieces.
 */
export type PictureNature = 'frame' | 'print';
