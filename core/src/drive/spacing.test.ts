import { freshCup, freshDrive, reckonSpacings, setApart, type RollerDrive, type RoundShape } from '.';

const cup: RoundShape = { ...freshCup, profile: [{ at: 0, diameter: 75 }, { at: 120, diameter: 75 }], wall: 1 }; // prettier-ignore
const drive: RollerDrive = { ...freshDrive, id: 'd', name: 'Rollers', rollerDiameter: 19.66, centreDistance: 40, spacings: [{ apart: 60 }, { apart: 80 }, { apart: 100 }] }; // prettier-ignore

describe('rollers that can be set apart', () => {
  it('have the angle of their contacts by the triangle of their axes, and carry the more the wider they stand', () => {
    const { all } = reckonSpacings(cup, drive, null)!;
    const angle = (apart: number): number => Math.asin(apart / 2 / (19.66 / 2 + 37.5));
    expect(all.map((s) => s.apart)).toEqual([40, 60, 80, 100]);
    [40, 60, 80].forEach((apart, i) => expect(all[i]!.theta).toBeCloseTo(angle(apart), 12));
    // g 40: θ 25.0° [worked by hand].
    expect(all[0]!.theta! * (180 / Math.PI)).toBeCloseTo(25.0, 1);
    expect(all.slice(0, 3).map((s) => s.limit)).toEqual([...all.slice(0, 3).map((s) => s.limit)].sort((a, b) => a - b));
    expect(all[1]!.limit).toBeGreaterThan(all[0]!.limit);
    // 100 mm apart is wider than blank and rollers together: it falls through.
    expect(all[3]).toEqual({ apart: 100, theta: null, limit: 0 });
  });

  it('are best where they carry most and do not pinch: 39° of 25, 39 and 58', () => {
    const { best, working } = reckonSpacings(cup, drive, null)!;
    expect(best!.apart).toBe(60);
    expect(working.map((w) => w.result).join(' | ')).toMatch(/mm\/s² \| \d+ mm\/s² \| \d+ mm\/s², pinched \| no/);
    const pinching = reckonSpacings(cup, { ...drive, centreDistance: 80, spacings: [{ apart: 85 }] }, null)!;
    expect(pinching.best!.apart).toBe(80);
    expect(reckonSpacings(cup, { ...drive, centreDistance: 100, spacings: [{ apart: 120 }] }, null)!.best).toBeNull();
  });

  it('are not asked about where they stand as they stand, or there are none', () => {
    expect(reckonSpacings(cup, { ...drive, spacings: [] }, null)).toBeNull();
    expect(reckonSpacings(cup, { ...freshDrive, kind: 'chuck', jaws: 100, id: 'c', name: 'Chuck' } as never, null)).toBeNull(); // prettier-ignore
  });

  it('are set to one of their own distances, and to no other', () => {
    expect(setApart(drive, 60).centreDistance).toBe(60);
    for (const none of [50, null, undefined]) expect(setApart(drive, none)).toBe(drive);
  });
});
