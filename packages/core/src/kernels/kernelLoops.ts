/** The inner loops that the compiled module offers; written by `npm run kernels` from packages/core/wasm. Places are in bytes. */
export interface KernelLoops {
  readonly memory: { readonly buffer: ArrayBuffer };
  /** See packages/core/wasm/bending.ts. */
  leastBending(
    ...places: readonly [
      neighbours: number,
      count: number,
      held: number,
      values: number,
      pull: number,
      work: number,
      rounds: number,
      share: number,
    ]
  ): void;
  /** See packages/core/wasm/contrast.ts. */
  blockMeans(
    ...places: readonly [
      values: number,
      width: number,
      height: number,
      left: number,
      top: number,
      block: number,
      mean: number,
      square: number,
      columns: number,
    ]
  ): void;
  /** See packages/core/wasm/contrast.ts. */
  groundOf(mean: number, square: number, count: number, border: number): void;
  /** See packages/core/wasm/contrast.ts. */
  fromGround(
    ...places: readonly [
      values: number,
      stride: number,
      onto: number,
      width: number,
      height: number,
      slopes: number,
      offsets: number,
      columns: number,
      across: number,
      along: number,
      down: number,
      aside: number,
      mixed: number,
      amount: number,
    ]
  ): void;
  /** See packages/core/wasm/courses.ts. */
  setCourseLevel(data: number, width: number, height: number): void;
  /** See packages/core/wasm/courses.ts. */
  setCoursePoints(xs: number, ys: number, strength: number): void;
  /** See packages/core/wasm/courses.ts. */
  setCourseColours(
    planes: number,
    count: number,
    wide: number,
    width: number,
    height: number,
    scale: number,
  ): void;
  /** See packages/core/wasm/courses.ts. */
  setCourseRoom(room: number, rows: number): void;
  /** See packages/core/wasm/courses.ts. */
  measureCourses(points: number, lengths: number, signs: number, lines: number, measured: number): void;
  /** See packages/core/wasm/discs.ts. */
  explainPlaces(
    ...places: readonly [
      data: number,
      width: number,
      centres: number,
      signs: number,
      places: number,
      templates: number,
      radii: number,
      softnesses: number,
      seen: number,
      found: number,
    ]
  ): void;
  /** See packages/core/wasm/filters.ts. */
  reserve(bytes: number): void;
  /** See packages/core/wasm/filters.ts. */
  blurRows(
    ...places: readonly [
      from: number,
      onto: number,
      width: number,
      height: number,
      half: number,
      radius: number,
      padded: number,
    ]
  ): void;
  /** See packages/core/wasm/filters.ts. */
  blurColumns(from: number, onto: number, width: number, height: number, half: number, radius: number): void;
  /** See packages/core/wasm/filters.ts. */
  weigh(
    ...places: readonly [
      red: number,
      green: number,
      blue: number,
      onto: number,
      count: number,
      ofRed: number,
      ofGreen: number,
      ofBlue: number,
    ]
  ): void;
  /** See packages/core/wasm/filters.ts. */
  addBounded(values: number, change: number, count: number): void;
  /** See packages/core/wasm/filters.ts. */
  share(seen: number, again: number, ratio: number, count: number, least: number): void;
  /** See packages/core/wasm/filters.ts. */
  mirror(values: number, others: number, count: number): void;
  /** See packages/core/wasm/filters.ts. */
  standOut(values: number, others: number, count: number, amount: number, threshold: number): void;
  /** See packages/core/wasm/filters.ts. */
  scale(values: number, by: number, count: number): void;
  /** See packages/core/wasm/filters.ts. */
  multiply(values: number, by: number, count: number): void;
  /** See packages/core/wasm/filters.ts. */
  readBetween(
    ...places: readonly [
      count: number,
      columns: number,
      rows: number,
      across: number,
      down: number,
      weights: number,
      plane: number,
      stride: number,
      onto: number,
      least: number,
      beyond: number,
    ]
  ): void;
  /** See packages/core/wasm/filters.ts. */
  meanRows(from: number, onto: number, width: number, height: number, radius: number): void;
  /** See packages/core/wasm/filters.ts. */
  meanColumns(from: number, onto: number, width: number, height: number, radius: number, sums: number): void;
  /** See packages/core/wasm/filters.ts. */
  halveFloats(from: number, onto: number, width: number, height: number): void;
  /** See packages/core/wasm/filters.ts. */
  doubleFloats(from: number, onto: number, width: number, height: number, mixed: number): void;
  /** See packages/core/wasm/forest.ts. */
  addLeaves(
    ...places: readonly [
      nodes: number,
      worths: number,
      roots: number,
      depths: number,
      trees: number,
      traits: number,
      width: number,
      samples: number,
      sums: number,
    ]
  ): void;
  /** See packages/core/wasm/framing.ts. */
  placePixels(
    ...places: readonly [
      bend: number,
      left: number,
      top: number,
      width: number,
      height: number,
      fromX: number,
      fromY: number,
      mostX: number,
      mostY: number,
      near: number,
      beyond: number,
      columns: number,
      rows: number,
      across: number,
      down: number,
    ]
  ): void;
  /** See packages/core/wasm/gaps.ts. */
  covary(data: number, width: number, height: number, stride: number, reach: number, table: number): void;
  /** See packages/core/wasm/gaps.ts. */
  predict(
    ...places: readonly [
      offsets: number,
      errors: number,
      counts: number,
      samples: number,
      covariances: number,
      covarianceReach: number,
      own: number,
      lower: number,
      stride: number,
      weights: number,
    ]
  ): void;
  /** See packages/core/wasm/lab.ts. */
  toLab(red: number, green: number, blue: number, count: number): void;
  /** See packages/core/wasm/lab.ts. */
  fromLab(lightness: number, as: number, bs: number, count: number, matrix: number): void;
  /** See packages/core/wasm/lab.ts. */
  expose(red: number, green: number, blue: number, count: number, stops: number, range: number): void;
  /** See packages/core/wasm/lab.ts. */
  moveLab(lightness: number, as: number, bs: number, count: number, added: number, by: number): void;
  /** See packages/core/wasm/layers.ts. */
  convolve(
    ...places: readonly [
      input: number,
      side: number,
      inside: number,
      weights: number,
      bias: number,
      outside: number,
      onto: number,
      columns: number,
      least: number,
    ]
  ): void;
  /** See packages/core/wasm/layers.ts. */
  slopesOfWeights(
    ...places: readonly [
      input: number,
      side: number,
      inside: number,
      slopes: number,
      columns: number,
      outside: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/layers.ts. */
  largestOfFour(from: number, side: number, channels: number, onto: number, columns: number): void;
  /** See packages/core/wasm/layers.ts. */
  slopesOfFour(
    values: number,
    side: number,
    channels: number,
    slopes: number,
    onto: number,
    columns: number,
  ): void;
  /** See packages/core/wasm/layers.ts. */
  weighInputs(
    inputs: number,
    count: number,
    weights: number,
    bias: number,
    outputs: number,
    onto: number,
  ): void;
  /** See packages/core/wasm/layers.ts. */
  sumOfPlaces(from: number, places: number, channels: number, onto: number): void;
  /** See packages/core/wasm/linking.ts. */
  linkRidgePixels(
    ...places: readonly [
      seeds: number,
      seedCount: number,
      at: number,
      records: number,
      marks: number,
      before: number,
      free: number,
      width: number,
      height: number,
      points: number,
      lengths: number,
    ]
  ): number;
  /** See packages/core/wasm/looks.ts. */
  sampleSquare(
    ...places: readonly [
      plane: number,
      width: number,
      height: number,
      x: number,
      y: number,
      step: number,
      side: number,
      work: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/looks.ts. */
  logarithms(lights: number, count: number, brighter: number): void;
  /** See packages/core/wasm/looks.ts. */
  meanOfPlanes(planes: number, channels: number, count: number, onto: number): void;
  /** See packages/core/wasm/looks.ts. */
  layLook(
    ...places: readonly [
      planes: number,
      channels: number,
      count: number,
      usual: number,
      grey: number,
      by: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/luma.ts. */
  logLuma8(red: number, green: number, blue: number, onto: number, count: number, table: number): void;
  /** See packages/core/wasm/luma.ts. */
  logLuma16(red: number, green: number, blue: number, onto: number, count: number, table: number): void;
  /** See packages/core/wasm/luma.ts. */
  halve(from: number, onto: number, width: number, height: number): void;
  /** See packages/core/wasm/luma.ts. */
  smooth(from: number, onto: number, width: number, height: number, down: number): void;
  /** See packages/core/wasm/medians.ts. */
  medianBytes(
    binned: number,
    columns: number,
    height: number,
    radius: number,
    work: number,
    onto: number,
  ): void;
  /** See packages/core/wasm/medians.ts. */
  medianShorts(
    binned: number,
    columns: number,
    height: number,
    radius: number,
    work: number,
    onto: number,
  ): void;
  /** See packages/core/wasm/patches.ts. */
  layBytes(samples: number, values: number, cover: number, count: number): void;
  /** See packages/core/wasm/patches.ts. */
  layShorts(samples: number, values: number, cover: number, count: number): void;
  /** See packages/core/wasm/ridges.ts. */
  listBent(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      least: number,
      side: number,
      columns: number,
      listed: number,
    ]
  ): number;
  /** See packages/core/wasm/ridges.ts. */
  placeRidgePixels(
    ...places: readonly [
      listed: number,
      bent: number,
      data: number,
      width: number,
      height: number,
      usual: number,
      side: number,
      columns: number,
      at: number,
      xs: number,
      ys: number,
      records: number,
      under: number,
      marks: number,
      before: number,
    ]
  ): number;
  /** See packages/core/wasm/ridges.ts. */
  seedCrests(
    ...places: readonly [
      records: number,
      count: number,
      least: number,
      keys: number,
      others: number,
      counts: number,
      seeds: number,
    ]
  ): number;
  /** See packages/core/wasm/rims.ts. */
  ringContrast(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      straight: number,
      slanted: number,
      least: number,
      side: number,
      columns: number,
      map: number,
      places: number,
    ]
  ): number;
  /** See packages/core/wasm/rims.ts. */
  splitColumns(from: number, even: number, odd: number, width: number, height: number): void;
  /** See packages/core/wasm/rims.ts. */
  tryRims(
    ...places: readonly [
      inner: number,
      outer: number,
      width: number,
      height: number,
      reach: number,
      usual: number,
      side: number,
      columns: number,
      share: number,
      sums: number,
      gridColumns: number,
      places: number,
    ]
  ): number;
  /** See packages/core/wasm/rims.ts. */
  keepPeaks(map: number, width: number, places: number, count: number): number;
  /** See packages/core/wasm/rims.ts. */
  climbRims(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      inner: number,
      outer: number,
      reach: number,
      usual: number,
      side: number,
      columns: number,
      sums: number,
      gridColumns: number,
      places: number,
      count: number,
      least: number,
      found: number,
    ]
  ): number;
  /** See packages/core/wasm/samples.ts. */
  fromBytes(from: number, onto: number, count: number): void;
  /** See packages/core/wasm/samples.ts. */
  fromShorts(from: number, onto: number, count: number): void;
  /** See packages/core/wasm/samples.ts. */
  toBytes(from: number, onto: number, count: number, scale: number): void;
  /** See packages/core/wasm/samples.ts. */
  toShorts(from: number, onto: number, count: number, scale: number): void;
  /** See packages/core/wasm/sifting.ts. */
  standOutBy(
    ...places: readonly [
      luma: number,
      median: number,
      count: number,
      bounds: number,
      finest: number,
      way: number,
      out: number,
      marks: number,
    ]
  ): void;
  /** See packages/core/wasm/sifting.ts. */
  tellSpecks(
    ...places: readonly [
      marks: number,
      luma: number,
      median: number,
      width: number,
      height: number,
      detail: number,
      around: number,
      classes: number,
      lookedAt: number,
      part: number,
    ]
  ): void;
  /** See packages/core/wasm/sifting.ts. */
  spreadMarks(marks: number, mark: number, width: number, height: number, by: number, onto: number): void;
  /** See packages/core/wasm/sifting.ts. */
  layGrains(
    ...places: readonly [
      planes: number,
      medians: number,
      channels: number,
      width: number,
      height: number,
      out: number,
      near: number,
      kept: number,
      taken: number,
      values: number,
      by: number,
      from: number,
      isPlain: number,
      donors: number,
      ways: number,
    ]
  ): void;
  /** See packages/core/wasm/smear.ts. */
  addBetween(
    ...places: readonly [
      from: number,
      stride: number,
      onto: number,
      width: number,
      height: number,
      first: number,
      right: number,
      below: number,
      askew: number,
    ]
  ): void;
  /** See packages/core/wasm/surroundings.ts. */
  measureSurroundings(
    ...places: readonly [
      data: number,
      width: number,
      centres: number,
      signs: number,
      radii: number,
      places: number,
      tables: number,
      cos: number,
      sin: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/surroundings.ts. */
  compareChannels(
    ...places: readonly [
      channels: number,
      channelCount: number,
      isWide: number,
      width: number,
      height: number,
      discs: number,
      places: number,
      core: number,
      ring: number,
      cos: number,
      sin: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/tables.ts. */
  lookUp(values: number, count: number, table: number, top: number): void;
  /** See packages/core/wasm/tables.ts. */
  encode(values: number, count: number, codes: number, steps: number): void;
  /** See packages/core/wasm/tables.ts. */
  balance(
    ...places: readonly [
      red: number,
      green: number,
      blue: number,
      count: number,
      lights: number,
      light: number,
      top: number,
      codes: number,
      code: number,
      steps: number,
      by: number,
    ]
  ): void;
  /** See packages/core/wasm/texture.ts. */
  energyNearby(
    ...places: readonly [
      detail: number,
      mask: number,
      shares: number,
      width: number,
      height: number,
      radius: number,
      farthest: number,
      work: number,
      onto: number,
    ]
  ): void;
  /** See packages/core/wasm/usual.ts. */
  sumSteps(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      reach: number,
      every: number,
      side: number,
      columns: number,
      east: number,
      south: number,
      west: number,
      north: number,
      sums: number,
      counts: number,
    ]
  ): void;
  /** See packages/core/wasm/usual.ts. */
  sumRings(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      straight: number,
      slanted: number,
      every: number,
      side: number,
      columns: number,
      sums: number,
      counts: number,
    ]
  ): void;
  /** See packages/core/wasm/usual.ts. */
  sumBends(
    ...places: readonly [
      data: number,
      width: number,
      height: number,
      every: number,
      side: number,
      columns: number,
      sums: number,
      counts: number,
    ]
  ): void;
  /** See packages/core/wasm/veils.ts. */
  describeVeil(
    ...places: readonly [
      known: number,
      seen: number,
      mask: number,
      width: number,
      height: number,
      stride: number,
      channels: number,
      isLit: number,
      free: number,
      freeCount: number,
      work: number,
      found: number,
    ]
  ): void;
  /** See packages/core/wasm/ways.ts. */
  enterCosts(
    ...places: readonly [
      features: number,
      planes: number,
      steepness: number,
      onto: number,
      count: number,
      looks: number,
      most: number,
      by: number,
    ]
  ): void;
  /** See packages/core/wasm/ways.ts. */
  sweepWays(ways: number, cost: number, width: number, height: number, sweeps: number): void;
}
