import { windowLength } from '../../feeder';
import {
  heldAs,
  CAUTIONS,
  START_MARK,
  type FeedReckoning,
  type FeedStop,
  type BatchInput,
  segmentTick,
  type BatchReckoning,
  focusStep,
  homeStep,
  type Step,
} from '../../setup';

/** What is aimed at under a mark's number. */
export const feedMarkWords = (feed: Pick<FeedReckoning, 'work'>, mark: number): string =>
  mark === START_MARK
    ? 'the strip’s leading corner at the guide'
    : feed.work === 'row'
      ? 'the first blank’s leading corner at the guide'
      : `mark ${mark} of the seam`;

const layStep = (feed: FeedReckoning): Step => {
  const first = feed.stops[0]!;
  return {
    id: 'feed.lay',
    station: 'feed',
    part: 'do',
    title:
      feed.work === 'row' ? 'Lay the blanks against guide and spacers' : 'Lay the strip in, its edge against the guide',
    detail: [
      feed.work === 'row'
        ? `${feed.layout?.places.length ?? 0} places, ${feed.layout?.pitch.toFixed(1) ?? ''} mm from one to the next, the first ${feed.layout?.lostFront.toFixed(0) ?? ''} mm from the leading end.`
        : `Its leading end at the window’s way out.`,
      first.fed > 0.05 ? `Then feed on ${first.command.toFixed(2)} mm.` : '',
    ].join(' '),
    figure: {
      value: (feed.layout?.pitch ?? feed.size.length).toFixed(1),
      unit: 'mm',
      label: feed.layout ? 'pitch' : 'length',
    },
    caution: CAUTIONS.rollers,
  };
};

const aimStep = (input: BatchInput, feed: FeedReckoning, stop: FeedStop, mark: number): Step => ({
  id: `feed.aim-${mark}`,
  station: 'feed',
  part: 'do',
  title: `Aim at ${feedMarkWords(feed, mark)}`,
  detail: `Stop ${stop.index}. ${feed.work === 'row' ? 'Where its two edges would meet, were the corner not rounded. ' : ''}${input.machine.pointerOffset ? 'The pointer offset is taken off.' : 'The pointer offset is unmeasured: ± 0.3 mm is carried.'}`,
  takes: { kind: 'reading', mark, purpose: 'place' },
  done: input.readings.some((r) => r.mark === mark && r.purpose === 'place'),
});

const walkStep = (stop: FeedStop): Step => ({
  id: `feed.walk-${stop.index}`,
  station: 'feed',
  part: 'check',
  title: `Walk stop ${stop.index} with the beam off`,
  detail: 'The dot stays on the work all the way round.',
  caution: CAUTIONS.head,
  files: [['walk.gcode', 'Walk file']],
});

/** Bars under a cut at a stop: what to mask where no stop misses them. */
const maskStep = (feed: FeedReckoning, stop: FeedStop): Step[] =>
  stop.overSupports < 0.5
    ? []
    : [
        {
          id: `feed.mask-${stop.index}`,
          station: 'feed',
          part: 'do',
          title: 'Mask the back where cuts run over bars',
          detail: `At stop ${stop.index}, ${stop.overSupports.toFixed(0)} mm of cut lie over ${feed.bars.length === 1 ? 'a bar' : 'bars'}, at ${feed.bars
            .filter((b) => b.to > stop.from && b.from < stop.to)
            .map((b) => ((b.from + b.to) / 2 - stop.from).toFixed(0))
            .join(
              ' and ',
            )} mm from its leading end: the beam comes back from them and chars. No stop in reach misses them.`,
          caution: CAUTIONS.burn,
        },
      ];

const setupSteps = (input: BatchInput, feed: FeedReckoning): Step[] => {
  const { calibration, skew, guide, room } = feed;
  const cm = (v: number): string => `${Math.ceil(v / 10)} cm`;
  return [
    {
      id: 'feed.room',
      station: 'feed',
      part: 'check',
      title: 'Is there room before and behind the machine?',
      detail: `${room.before > 0.5 ? `${cm(room.before)} where it goes in` : 'none where it goes in'}, ${room.behind > 0.5 ? `${cm(room.behind)} where it comes out` : 'none where it comes out'}. ${heldAs(input, 'feed').choice.rails ? 'Rails on, level with the rollers.' : 'Support it level with the rollers.'}`,
      figure: {
        value: cm(Math.max(room.before, room.behind)).replace(' cm', ''),
        unit: 'cm',
        label: 'free at the longer side',
      },
      caution: CAUTIONS.rollers,
    },
    {
      id: 'feed.material',
      station: 'feed',
      part: 'check',
      title: 'Is this material safe to burn?',
      detail: `${(feed.size.length / 1000).toFixed(2)} m of it goes under the head. Read its safety sheet.`,
      caution: CAUTIONS.material,
    },
    {
      id: 'feed.calibrate',
      station: 'feed',
      part: 'check',
      title: calibration.readings === 0 ? 'Feed a long way and measure it' : 'The feed is measured',
      detail:
        calibration.readings === 0
          ? `Mark the edge, command at least ${Math.min(500, Math.round(windowLength(feed.feeder!)))} mm, and measure from mark to mark; feed back and see whether the line returns. Three times tell how it repeats.`
          : `Factor ${calibration.factor.toFixed(4)} ± ${(2 * calibration.uncertainty).toFixed(4)} from ${calibration.readings} ${calibration.readings === 1 ? 'reading' : 'readings'}. Measure again when belt or material changed.`,
      takes: { kind: 'feed' },
      done: calibration.readings > 0,
    },
    { ...homeStep, id: 'feed.home', station: 'feed' },
    layStep(feed),
    focusStep(
      'feed',
      feed.work === 'row' ? 'a blank' : 'the strip',
      'Under the head, where it lies flat. Every stop is as high, as long as rollers and supports are level.',
    ),
    ...(feed.work === 'parts'
      ? []
      : [
          {
            id: 'feed.guide',
            station: 'feed' as const,
            part: 'check' as const,
            title: 'Read the guide’s edge at two places, far apart',
            detail: guide.measured
              ? `It stands ${(guide.angle * 1000).toFixed(2)} mm a metre off the axis; the files turn with it.`
              : 'Bring the pointer onto its edge near both ends of the window, and type what the machine shows. It holds until the feeder is moved.',
            takes: { kind: 'guide' as const },
            done: guide.measured,
          },
        ]),
    {
      id: 'feed.square',
      station: 'feed',
      part: 'check',
      title: 'Measure its edge from the guide at two stations',
      detail: skew.measured
        ? `It lies askew by ${(skew.angle * 1000).toFixed(2)} mm a metre; the files turn with it.`
        : 'As far apart as the guide allows. Two equal readings: it lies square.',
      takes: { kind: 'square' },
      done: skew.measured,
    },
    {
      id: 'feed.patch',
      station: 'feed',
      part: 'check',
      title: 'Burn the test patch first',
      detail: feed.patch
        ? `${(feed.patch.maxX - feed.patch.minX).toFixed(0)} × ${(feed.patch.maxY - feed.patch.minY).toFixed(0)} mm at ${feed.patch.minX.toFixed(0)} mm from the leading end and ${feed.patch.minY.toFixed(0)} from the guide, where nothing else comes. Then enter it as a used place.`
        : 'The strip has no room for one outside the work: use a scrap of the same material.',
    },
  ];
};

/** A strip on a feeder: set up once, then fed, aimed at and burned stop by stop. */
export const feedSteps = (
  input: BatchInput,
  r: BatchReckoning,
  feed: FeedReckoning,
  recipe: readonly Step[],
  run: readonly Step[],
): Step[] => {
  if (feed.stops.length === 0) return [...recipe];
  const stop = feed.stops[feed.current - 1]!;
  const aims = stop.marks.map((m) => aimStep(input, feed, stop, m));
  const open = r.run.openLoad !== null;
  if (!r.own.long)
    return [
      ...setupSteps(input, feed),
      ...recipe,
      ...(r.run.finished ? [] : open ? [...aims, ...maskStep(feed, stop), walkStep(stop), ...run] : run),
    ];
  const { long } = r.own;
  const n = feed.stops.length;
  return [
    ...setupSteps(input, feed),
    ...recipe,
    ...(open ? [] : run),
    ...(open
      ? feed.stops.flatMap((s): Step[] => {
          const now = s.index === feed.current && !long.burned;
          return [
            ...(s.index === 1
              ? []
              : [
                  {
                    id: `feed.on-${s.index}`,
                    station: 'feed' as const,
                    part: 'do' as const,
                    title: `Feed on to stop ${s.index}`,
                    detail: `The work moves ${(s.fed - feed.stops[s.index - 2]!.fed).toFixed(2)} mm; that is what the feeder is told for it. Always forwards: going back slips.`,
                    figure: { value: s.command.toFixed(2), unit: 'mm', label: 'command' },
                    caution: CAUTIONS.rollers,
                  },
                ]),
            ...s.marks.map((m) => aimStep(input, feed, s, m)),
            ...(now ? maskStep(feed, s) : []),
            ...(now ? [walkStep(s)] : []),
            {
              id: segmentTick(s.index),
              station: 'run',
              part: 'do',
              title: `Burn stop ${s.index} of ${n}`,
              detail: `${s.from.toFixed(0)} to ${s.to.toFixed(0)} mm of the work.`,
              figure: { value: `${s.index} / ${n}`, unit: '', label: 'stop' },
              caution: CAUTIONS.burn,
              takes: { kind: 'burn' },
              files: now ? [['load.gcode', 'G-code']] : [],
            },
          ];
        })
      : []),
    ...(open ? run : []),
  ];
};

/** What is fed and burned next, in words, and the number that the feeder is told. */
export const feedRunWords = (
  input: BatchInput,
  r: BatchReckoning,
  feed: FeedReckoning,
): { title: string; detail: string; figure?: Step['figure'] } => {
  const stop = feed.stops[feed.current - 1];
  const open = r.run.openLoad;
  if (!stop) return { title: 'Nothing can be fed yet', detail: feed.problem?.message ?? '' };
  if (r.own.long)
    return open === null
      ? { title: 'Take the work', detail: 'It lies in the feeder, its leading end at the window’s way out.' }
      : { title: 'Look at the whole work', detail: 'At its seams above all.' };
  const places =
    stop.count === 1 ? `place ${stop.first + 1}` : `places ${stop.first + 1} to ${stop.first + stop.count}`;
  if (open === null && r.run.done > 0 && !input.firstApproved)
    return {
      title: 'Look at the first piece, then approve it',
      detail: 'It may lie where it is: the strip is fed on only after that.',
    };
  if (open !== null)
    return {
      title: `Burn stop ${stop.index}: ${places}`,
      detail: input.firstApproved
        ? `Strip ${feed.strip} of ${feed.strips}. Interrupted in the middle? Judge what is done; the file then burns what is left.`
        : 'The rest is held until the first is approved.',
      figure: { value: `${stop.index} / ${feed.stops.length}`, unit: '', label: `stop on strip ${feed.strip}` },
    };
  return stop.index === 1
    ? {
        title: feed.strip === 1 ? 'Begin with the first place' : `Lay in strip ${feed.strip} of ${feed.strips}`,
        detail: `${input.firstApproved ? places : 'One piece alone, until it is approved'}. From the leading end feed ${stop.command.toFixed(2)} mm.`,
        figure: { value: stop.command.toFixed(2), unit: 'mm', label: 'command from the leading end' },
      }
    : {
        title: `Feed on to stop ${stop.index}: ${places}`,
        detail: `The strip moves ${(stop.fed - feed.stops[stop.index - 2]!.fed).toFixed(2)} mm. Always forwards: going back slips.`,
        figure: { value: stop.command.toFixed(2), unit: 'mm', label: 'what the feeder is told' },
      };
};
