import { type DriveFigures, LAUNCH, type Response, type RiseFigures } from '@glenmark/core/run';

/** What a response comes to, in lines. */
export const responseWords = ({ drive, rise }: Response): string[] => [
  ...driveWords(drive),
  ...(rise === undefined ? [] : riseWords(rise)),
];

const seconds = (s: number): string => `${s.toFixed(2)}\u00a0s`;

function driveWords(drive: DriveFigures | undefined): string[] {
  if (drive === undefined) return [$localize`the axis does not move it`];
  const { full, up, stop, slide, turn } = drive;
  return [
    $localize`${full.toFixed(1)}\u00a0m/s in ${seconds(up)}`,
    stop === undefined
      ? $localize`does not stop within a second`
      : $localize`stops in ${seconds(stop)}, ${slide.toFixed(2)}\u00a0m`,
    ...(turn === undefined ? [] : [$localize`turns in ${seconds(turn)}`]),
  ];
}

const riseWords = ({ apex, up, down }: RiseFigures): string[] =>
  apex === 0
    ? [$localize`does not rise`]
    : [
        $localize`thrown up at ${LAUNCH}\u00a0m/s: ${apex.toFixed(2)}\u00a0m in ${seconds(up)}, down in ${seconds(down)}`,
      ];
