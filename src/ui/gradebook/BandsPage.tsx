'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { type Band, bandCounts, bandProblems, crossings, nearBoundaries } from '@/core/gradebook/bands';
import { distribution } from '@/core/gradebook/statistics';
import type { Workbench } from '@/server/gradebook/workbench';
import { Meanwhile } from '../keep/Meanwhile';
import { useSettings } from '../keep/useSettings';
import { Button, RemoveButton } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { SelectField, TextArea, TextField } from '../kit/Field';
import { Link } from '../kit/Link';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { Unkept } from '../kit/Unkept';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  bench: Workbench;
  /** Keeps the course's bands, or a sitting's own; null for those of the course again. */
  commands: Commands<'saveNumbers' | 'saveSittingBands', 'courseId'>;
};

type Entered = { label: string; from: string; comment: string };

const started: Entered[] = [
  { label: 'Excellent', from: '85', comment: '' },
  { label: 'Good', from: '70', comment: '' },
  { label: 'Passed', from: '50', comment: '' },
  { label: 'Not passed', from: '0', comment: '' },
];

const bandSaid = (band: Band) => `${band.label} from ${band.from} %`;

/** Bands with their boundaries, moved on the distribution: who crosses, and who lies so near that chance could decide. */
export function BandsPage({ base, bench, commands }: Props) {
  const router = useRouter();
  const { perform, problems, busy } = usePerform();
  const [done, setDone] = useState('');
  const from = (bands: readonly Band[]): Entered[] => bands.map((band) => ({ ...band, from: String(band.from) }));
  const written = useSettings<Entered[]>(
    `bands/${bench.sittingId ?? 'course'}`,
    bench.sittingId === null ? 'Bands of the course being changed' : 'Bands of a sitting being changed',
    from(bench.bands),
  );
  const { entered } = written;
  const changed = written.isUnfinished;
  const stored = bench.sittingId === null || bench.own ? bench.bands : null;
  const bands = entered.map((band) => ({ ...band, from: band.from.trim() === '' ? Number.NaN : numberIn(band.from) }));
  const faults = bandProblems(bands);
  const change = (next: Entered[]) => {
    written.change(next);
    setDone('');
  };
  const at = (i: number, part: Partial<Entered>) =>
    change(entered.map((band, other) => (other === i ? { ...band, ...part } : band)));
  const { results, decimals, error } = bench;
  const names = new Map(results.map((one) => [one.userId, one.name]));
  const fits = faults.length === 0 && bands.length > 0;
  const cross = fits && changed ? crossings(bench.bands, bands, results, decimals) : [];
  const near = fits && error !== null ? nearBoundaries(bands, results, error, decimals) : [];
  const counts = fits
    ? bandCounts(
        bands,
        results.map((one) => one.percent),
        decimals,
      )
    : [];
  const faultAt = (i: number, field: 'label' | 'from') =>
    faults.find((one) => one.index === i && one.field === field)?.message ?? null;
  const keep = (next: Band[] | null, said: string) =>
    void perform(
      () =>
        bench.sittingId === null
          ? commands.saveNumbers({ rules: { bands: next ?? [] } }, { rules: { bands: bench.bands } })
          : commands.saveSittingBands(bench.sittingId, next, { bands: stored }),
      () => {
        setDone(said);
        written.saved(next === null ? from(bench.bands) : undefined);
      },
    );
  return (
    <PageFrame>
      <PageTitle
        title="Bands"
        back={{ href: `${base}/gradebook`, name: 'Gradebook' }}
        note="A band applies to the percent as it is displayed; its comment goes to the student with the result"
      />
      {done && (
        <Done className="mb-3" onUndo={null}>
          {done}
        </Done>
      )}
      <Problems problems={problemsBesides(problems, [])} className="mb-3" />
      {changed && written.broughtBack && (
        <Done className="mb-3" onUndo={() => written.done()}>
          What you had begun to change here has been brought back, and is not kept yet.
        </Done>
      )}
      <Meanwhile
        places={
          written.clashes.length ? [{ name: 'Bands', theirs: bench.bands.map(bandSaid).join(', ') || 'no bands' }] : []
        }
      />
      <Unkept on={changed && !written.isKept} />
      <div className="mb-4 flex flex-wrap items-end gap-4">
        <SelectField
          label="Bands of"
          className="w-96"
          disabled={changed}
          hint={changed ? 'Keep what is entered first.' : undefined}
          value={bench.sittingId ?? ''}
          onChange={(event) =>
            router.push(`${base}/gradebook/bands${event.target.value ? `?sitting=${event.target.value}` : ''}`)
          }
        >
          <option value="">the course: its totals, and sittings without bands of their own</option>
          {bench.sittings.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </SelectField>
        {bench.sittingId !== null && (
          <p className="pb-1.5 text-ink-2">
            {bench.own
              ? 'It has bands of its own.'
              : 'It has the bands of the course; keeping others gives it its own.'}{' '}
            {bench.own && (
              <TextButton disabled={busy} onClick={() => keep(null, 'The bands of the course hold again.')}>
                Back to those of the course
              </TextButton>
            )}
          </p>
        )}
      </div>
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_26rem]">
        <div className="space-y-4">
          <Sheet label="Results and boundaries" className="px-5 py-4">
            {results.length === 0 ? (
              <p className="text-ink-2">There is no complete result yet.</p>
            ) : (
              <Boundaries
                percents={results.map((one) => one.percent)}
                bands={bands}
                error={error}
                onMove={(i, percent) => at(i, { from: String(percent) })}
              />
            )}
            <p className="mt-2 text-sm text-ink-2">
              {error === null
                ? bench.whyNoError
                : `One standard error of measurement: ${roundHalfUp(error, 1)} % of the points. Who lies within it of a boundary could be on its other side by chance.`}
            </p>
          </Sheet>
          {near.length > 0 && (
            <Sheet label="A second look" className="px-5 py-4">
              <h2 className="text-lg">A second look before publishing: {counted(near.length, 'student')}</h2>
              <ul className="text-sm">
                {near
                  .sort((a, b) => Math.abs(a.apart) - Math.abs(b.apart))
                  .map((one) => (
                    <li key={one.userId} className="flex justify-between gap-4 border-t border-line py-1">
                      {bench.sittingId ? (
                        <Link
                          href={`${base}/marking/${bench.sittingId}/students/${one.userId}`}
                          className="text-prussian hover:underline"
                        >
                          {names.get(one.userId)}
                        </Link>
                      ) : (
                        names.get(one.userId)
                      )}
                      <span className="tabular-nums">
                        {roundHalfUp(one.percent, decimals)} %, {roundHalfUp(Math.abs(one.apart), 1)}{' '}
                        {one.apart < 0 ? 'below' : 'above'} {one.boundary} % · {one.band}
                      </span>
                    </li>
                  ))}
              </ul>
            </Sheet>
          )}
        </div>
        <div className="space-y-4">
          <Sheet label="Bands" className="px-5 py-4">
            {entered.length === 0 ? (
              <Empty title="No bands yet">
                <p className="mb-3">Results are then shown in points and percent only.</p>
                <Button onClick={() => change(started)}>Begin with four</Button>
              </Empty>
            ) : (
              <ol>
                {entered.map((band, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: bands have no name but their place while they are entered
                  <li key={i} className="border-b border-line py-2 last:border-b-0">
                    <div className="flex items-start gap-2">
                      <TextField
                        label="Band"
                        className="w-36"
                        value={band.label}
                        problem={faultAt(i, 'label')}
                        onChange={(event) => at(i, { label: event.target.value })}
                      />
                      <NumberField
                        label="from %"
                        className="w-24"
                        value={band.from}
                        problem={faultAt(i, 'from')}
                        onChange={(event) => at(i, { from: event.target.value })}
                      />
                      <span className="pt-8 text-sm whitespace-nowrap text-ink-2 tabular-nums">
                        {fits ? counted(counts[i] ?? 0, 'student') : ''}
                      </span>
                      <span className="ml-auto pt-6">
                        <RemoveButton
                          label={`Remove ${band.label || 'the band'}`}
                          onClick={() => change(entered.filter((_, other) => other !== i))}
                        />
                      </span>
                    </div>
                    <TextArea
                      label={`Comment that goes with ${band.label || 'it'}`}
                      quiet
                      rows={1}
                      placeholder="Comment for the student"
                      className="mt-1"
                      value={band.comment}
                      onChange={(event) => at(i, { comment: event.target.value })}
                    />
                  </li>
                ))}
              </ol>
            )}
            <div className="mt-3 flex flex-wrap gap-2">
              {entered.length > 0 && (
                <Button
                  onClick={() =>
                    change([
                      { label: '', from: String(Math.min(100, (bands[0]?.from || 0) + 5)), comment: '' },
                      ...entered,
                    ])
                  }
                >
                  Add one on top
                </Button>
              )}
              {changed && (
                <>
                  <Button
                    look="main"
                    disabled={busy}
                    whyNot={faults.length ? 'Mend what is marked above.' : null}
                    onClick={() => keep(bands, 'The bands are kept.')}
                  >
                    Save the bands
                  </Button>
                  <Button
                    look="quiet"
                    onClick={() => {
                      written.done();
                    }}
                  >
                    As they were
                  </Button>
                </>
              )}
            </div>
          </Sheet>
          {changed && fits && (
            <Sheet label="Who crosses" className="px-5 py-4">
              <h2 className="text-lg" role="status">
                {counted(cross.length, 'student crosses', 'students cross')} a boundary
              </h2>
              <ul className="text-sm">
                {cross.map((one) => (
                  <li key={one.userId} className="flex justify-between gap-4 border-t border-line py-1">
                    <span>{names.get(one.userId)}</span>
                    <span className="tabular-nums">
                      {roundHalfUp(one.percent, decimals)} %: {one.from || 'none'} → {one.to || 'none'}
                    </span>
                  </li>
                ))}
              </ul>
            </Sheet>
          )}
        </div>
      </div>
    </PageFrame>
  );
}

const steps = 50;

/** The results as a row of columns, two percent each, with the boundaries as lines that are moved by pointer or arrow keys. */
function Boundaries({
  percents,
  bands,
  error,
  onMove,
}: {
  percents: number[];
  bands: readonly Band[];
  error: number | null;
  onMove: (index: number, percent: number) => void;
}) {
  const counts = distribution(percents, steps);
  const most = Math.max(1, ...counts);
  const drag = (index: number) => (event: React.PointerEvent<HTMLElement>) => {
    if (event.buttons !== 1) return;
    const frame = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!frame) return;
    const percent = Math.round(((event.clientX - frame.left) / frame.width) * 200) / 2;
    onMove(index, Math.max(0.5, Math.min(100, percent)));
  };
  return (
    <fieldset className="relative h-56 select-none" aria-label="Boundaries on the distribution of results">
      <div
        className="absolute inset-x-0 top-6 bottom-6 flex items-end border-b border-ink"
        role="img"
        aria-label={`${percents.length} results, from ${roundHalfUp(Math.min(...percents), 0)} to ${roundHalfUp(Math.max(...percents), 0)} percent`}
      >
        {counts.map((n, i) => (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: a step of two percent is its place
            key={i}
            className="flex-1 border-x border-sheet bg-prussian"
            style={{ height: `${(n / most) * 100}%` }}
            title={`${n} from ${i * 2} to ${i * 2 + 2} %`}
          />
        ))}
      </div>
      {bands.map((band, i) =>
        band.from > 0 && band.from <= 100 ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: bands have no name but their place while they are entered
          <span key={i}>
            {error !== null && (
              <span
                aria-hidden="true"
                className="absolute top-6 bottom-6 bg-saffron/15"
                style={{ left: `${Math.max(0, band.from - error)}%`, width: `${error * 2}%` }}
              />
            )}
            <button
              type="button"
              role="slider"
              aria-label={`Boundary of ${band.label}`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={band.from}
              aria-valuetext={`${band.from} percent`}
              className="absolute top-0 bottom-6 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
              style={{ left: `${band.from}%` }}
              onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
              onPointerMove={drag(i)}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -0.5, ArrowRight: 0.5, PageDown: -5, PageUp: 5 }[event.key];
                if (by === undefined) return;
                event.preventDefault();
                onMove(i, Math.max(0.5, Math.min(100, band.from + by)));
              }}
            >
              <span className="absolute top-5 bottom-0 left-1/2 w-0.5 -translate-x-1/2 bg-brick" />
              <span className="absolute top-0 left-1/2 -translate-x-1/2 text-sm whitespace-nowrap text-brick">
                {band.label}
              </span>
            </button>
          </span>
        ) : null,
      )}
      <div className="absolute inset-x-0 bottom-5 text-xs text-ink-2" aria-hidden="true">
        {[0, 20, 40, 60, 80, 100].map((percent) => (
          <span
            key={percent}
            className={`absolute top-0 whitespace-nowrap ${percent === 0 ? '' : percent === 100 ? '-translate-x-full' : '-translate-x-1/2'}`}
            style={{ left: `${percent}%` }}
          >
            {percent} %
          </span>
        ))}
      </div>
    </fieldset>
  );
}
