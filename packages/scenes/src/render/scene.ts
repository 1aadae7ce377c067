/** Linear light of the three primaries of sRGB; 1 is paper white in the sun. */
export type Light = [red: number, green: number, blue: number];
export type Vector = [x: number, y: number, z: number];

/** A place seen by a ray. */
export interface Sight {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly normal: Vector;
  /** Where the ray goes, of unit length. */
  readonly direction: Vector;
  /** How far away, in metres. */
  readonly distance: number;
}

/** What a picture is rendered from. Metres; x to the right, y up, z away from the camera. */
export interface Scene {
  readonly eye: Vector;
  readonly lookAt: Vector;
  /** Half the picture's height over the distance: the tangent of half the angle of view. */
  readonly spread: number;
  readonly far: number;
  /** Share of the distance that is safe to walk: below 1 where the distance is only an estimate. */
  readonly stride: number;
  readonly distance: (x: number, y: number, z: number) => number;
  readonly shade: (sight: Sight) => Light;
  readonly background: (direction: Vector) => Light;
  /** Something thin in front of everything (steam, water): what reaches the eye of light from `distance` away. */
  readonly between: (light: Light, eye: Vector, direction: Vector, distance: number) => Light;
}
