/** Pixels that do not fit together: wrong sides, a view that leaves its raster. */
export class RasterError extends Error {
  override readonly name = 'RasterError';
}

/** A recipe, a mend or an edit that cannot be carried out; `place` says where in the document. */
export class RecipeError extends Error {
  override readonly name = 'RecipeError';
  constructor(
    readonly place: string,
    readonly reason: string,
  ) {
    super(`${place}: ${reason}`);
  }
}
