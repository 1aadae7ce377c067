import sharp from 'sharp';

const SHIPPED = { srgb: 'srgb', 'display-p3': 'p3' } as const;
const read = new Map<string, Promise<Buffer>>();

/** The profile that a delivery's values are in, as the imaging library ships it. */
export function targetProfile(name: keyof typeof SHIPPED): Promise<Buffer> {
  const known = read.get(name);
  if (known) return known;
  const made = sharp({ create: { width: 1, height: 1, channels: 3, background: '#888' } })
    .withIccProfile(SHIPPED[name])
    .png()
    .toBuffer()
    .then((dot) => sharp(dot).metadata())
    .then(({ icc }) => {
      if (!icc) throw new Error(`the imaging library ships no profile called ${SHIPPED[name]}`);
      return icc;
    });
  read.set(name, made);
  return made;
}
