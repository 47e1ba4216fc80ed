import * as v from 'valibot';

/** Characters of a name of a device or a port. */
export const LONGEST_NAME = 60;
export const MOST_LINKS = 600;

const Field = v.pipe(v.string(), v.maxLength(LONGEST_NAME));

/** Metres that a link of each medium may have: 100 m of twisted pair (ISO/IEC 11801, IEEE 802.3), 2 km of multimode fibre (100BASE-FX, full duplex, IEEE 802.3), 50 m of polymer fibre (common practice, no source). */
export const MEDIA = {
  copper: { name: 'twisted pair', mostM: 100 },
  fibre: { name: 'glass fibre', mostM: 2000 },
  polymer: { name: 'polymer fibre', mostM: 50 },
} as const;

const EndSchema = v.strictObject({ device: Field, port: Field });

/** From which port of which device a link goes to which. Fields are kept as they were typed; what is wrong with one is said beside it. */
export const WiringSchema = v.strictObject({
  /** The device from which the links are counted: the controller, or the laptop. */
  root: Field,
  /** The devices close one ring on purpose, and one of them keeps it open while no link is broken. */
  ring: v.boolean(),
  links: v.pipe(
    v.array(
      v.strictObject({
        a: EndSchema,
        b: EndSchema,
        medium: v.picklist(['copper', 'fibre', 'polymer'] satisfies readonly (keyof typeof MEDIA)[]),
        lengthM: Field,
      }),
    ),
    v.maxLength(MOST_LINKS),
  ),
});
export type Wiring = v.InferOutput<typeof WiringSchema>;
export type WiringLink = Wiring['links'][number];
export type WiringEnd = WiringLink['a'];
