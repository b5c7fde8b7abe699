import clsx from 'clsx';
import { useState } from 'react';
import { toast } from 'sonner';
import type { ControlCheckShown, ControlVehicleShown } from '../../contract/register/control.ts';
import type { Dyno } from '../../contract/register/register.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { signed } from '../../core/base/signed.ts';
import { ConfirmButton } from '../base/confirm.tsx';
import { day, number, rpm, useUnits } from '../base/format.ts';
import { ReasonDialog } from '../base/reason-dialog.tsx';
import { Button, Loading, Mark, ProblemNote } from '../base/ui.tsx';
import { useChangeDynoMutation } from './api.ts';
import { useControlQuery, useStrikeCheckMutation } from './control-api.ts';
import { ControlCheckForm } from './control-check-form.tsx';
import { ControlDrawing } from './control-drawing.tsx';
import { ControlName } from './control-name.tsx';
import { inputOf } from './dyno-form.tsx';
import { useMay } from './layout.tsx';

/** Cars on which nothing is changed, measured again and again: does the dyno still read as it did? */
export function ControlVehicles({ dyno }: { dyno: Dyno }) {
  const { data, error, refetch } = useControlQuery(dyno.id);
  const may = useMay();
  const [naming, setNaming] = useState(false);
  return (
    <section aria-labelledby="control-vehicles">
      <div className="mb-1 flex items-baseline justify-between gap-4">
        <h2 id="control-vehicles">Control vehicle</h2>
        {may.manage && !naming && (
          <Button small onClick={() => setNaming(true)}>
            Name a control vehicle
          </Button>
        )}
      </div>
      <p className="mb-2 max-w-prose text-[12.5px] text-soft">
        A car on which nothing is changed. Twenty checks make its reference; a later one out of limits keeps
        sessions around it from a claim. It also stands in for the return where a part cannot come off again.
      </p>
      {naming && <ControlName dynoId={dyno.id} onDone={() => setNaming(false)} />}
      {error ? (
        <ProblemNote error={error} again={() => void refetch()} />
      ) : !data ? (
        <Loading what="the control vehicles" />
      ) : data.vehicles.length === 0 ? (
        <p className="text-soft">None named: whether the dyno drifts from day to day is not known.</p>
      ) : (
        data.vehicles.map((vehicle) => <OneControl key={vehicle.id} dyno={dyno} vehicle={vehicle} />)
      )}
    </section>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function OneControl({ dyno, vehicle }: { dyno: Dyno; vehicle: ControlVehicleShown }) {
  const may = useMay();
  const { power } = useUnits();
  const [entering, setEntering] = useState(false);
  const [why, setWhy] = useState<'asked' | { reason: string } | null>(null);
  const latest = vehicle.checks.findLast((c) => c.struck === null);
  return (
    <article aria-label={vehicle.tag} className="mb-5">
      <div className="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h3 className="font-semibold">{vehicle.tag}</h3>
        <span className="text-soft">
          {STANDARD_NAMES[vehicle.standard]}, {rpm(vehicle.fromRpm)} to {rpm(vehicle.toRpm)}, gear{' '}
          {vehicle.gear}
          {vehicle.levelW !== null &&
            `, ${number(power.of(vehicle.levelW / 1000), 1)} ${power.unit} at the wheel on average`}
        </span>
        {vehicle.replaced ? (
          <Mark tone="soft">begun anew since</Mark>
        ) : latest?.chart?.alarm ? (
          <Mark tone="loss">out of limits</Mark>
        ) : vehicle.missing > 0 ? (
          <Mark tone="ask">{vehicle.missing} checks to its reference</Mark>
        ) : (
          <Mark tone="stands">within limits</Mark>
        )}
        {!vehicle.replaced && (
          <span className="ml-auto flex gap-2">
            {may.prepare && !entering && (
              <Button small onClick={() => setEntering(true)}>
                Enter a check
              </Button>
            )}
            {may.manage && (
              <Button small onClick={() => setWhy('asked')}>
                Begin anew
              </Button>
            )}
          </span>
        )}
      </div>
      {vehicle.reason && <p className="text-[12.5px] text-soft">Begun anew: {vehicle.reason}</p>}
      {why === 'asked' && (
        <ReasonDialog
          title="Begin this control vehicle anew?"
          hint="for instance: the dyno was calibrated, or the car had to be repaired"
          verb="Go on"
          least={10}
          saving={false}
          save={async (reason) => Promise.resolve(setWhy({ reason }))}
          onClose={() => setWhy((w) => (w === 'asked' ? null : w))}
        >
          <p className="mb-3 text-soft">
            Its former checks stay, and count for the sessions of their time. A new reference needs twenty
            checks.
          </p>
        </ReasonDialog>
      )}
      {why !== null && why !== 'asked' && (
        <ControlName dynoId={dyno.id} anew={{ vehicle, reason: why.reason }} onDone={() => setWhy(null)} />
      )}
      {entering && <ControlCheckForm vehicle={vehicle} onDone={() => setEntering(false)} />}
      {vehicle.checks.length > 1 && <ControlDrawing tag={vehicle.tag} checks={vehicle.checks} />}
      <Study dyno={dyno} vehicle={vehicle} mayManage={may.manage} />
      <Checks vehicle={vehicle} mayManage={may.manage} timeZone={dyno.timeZone} />
    </article>
  );
}

/** Days of a control study from which on its variances may be registered (docs/method.md). */
const LEAST_STUDY_DAYS = 3;
/** Time of day at the site. */
const clockAt = (at: string, timeZone: string): string =>
  new Date(at).toLocaleTimeString('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' });
const sd = (variance: number): string => `${number(Math.sqrt(variance), 2)} %`;

/** How much days, mountings and pulls differ when nothing is changed; and a way to register it. */
function Study({
  dyno,
  vehicle: { study, replaced },
  mayManage,
}: {
  dyno: Dyno;
  vehicle: ControlVehicleShown;
  mayManage: boolean;
}) {
  const [change, { error, isLoading }] = useChangeDynoMutation();
  if (!study || replaced) return null;
  const register = async (): Promise<void> => {
    const repeatability = {
      ...dyno.repeatability,
      ...(study.mount ? { mount: study.mount } : {}),
      day: study.day,
    };
    const record = { ...inputOf(dyno), repeatability };
    if (!('error' in (await change({ id: dyno.id, version: dyno.version, record }))))
      toast.success('Registered, for tests from now on.');
  };
  return (
    <div className="my-2 flex flex-wrap items-center gap-3 text-[12.5px] text-soft">
      <p>
        With nothing changed, over {study.days} days: pulls {sd(study.pull.variance)}, mountings{' '}
        {study.mount
          ? `${sd(study.mount.variance)} (${number(study.mount.df, 1)} degrees of freedom)`
          : 'not told'}
        , days {sd(study.day.variance)} ({study.day.df}).
        {study.days < LEAST_STUDY_DAYS && ` From ${LEAST_STUDY_DAYS} days on they may be registered.`}
      </p>
      {mayManage && study.mount && study.days >= LEAST_STUDY_DAYS && (
        <ConfirmButton
          small
          disabled={isLoading}
          title="Register what the control vehicle shows?"
          follows="The variances of mountings and days are replaced; what was registered before stays in the dyno’s history."
          verb="Register"
          onConfirm={() => void register()}
        >
          Register mountings and days
        </ConfirmButton>
      )}
      <ProblemNote error={error} />
    </div>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function Checks({
  vehicle,
  mayManage,
  timeZone,
}: {
  vehicle: ControlVehicleShown;
  mayManage: boolean;
  timeZone: string;
}) {
  const [striking, setStriking] = useState<ControlCheckShown | null>(null);
  const [strike, { error, isLoading }] = useStrikeCheckMutation();
  if (vehicle.checks.length === 0) return <p className="text-soft">Not measured yet.</p>;
  return (
    <div
      className="max-h-72 overflow-auto"
      tabIndex={0}
      role="region"
      aria-label={`Checks of ${vehicle.tag}`}
    >
      <table className="ledger">
        <thead>
          <tr>
            <th>Made</th>
            <th className="num">Off centre</th>
            <th className="num">Pull-to-pull SD</th>
            <th>Moving mean (limit)</th>
            <th>Pulls</th>
            <th>Entered by</th>
            {mayManage && <th aria-label="Cross out" />}
          </tr>
        </thead>
        <tbody>
          {[...vehicle.checks].reverse().map((check) => (
            <tr key={check.id} className={check.struck ? 'text-soft' : undefined}>
              <td>
                <span className={clsx('whitespace-nowrap', check.struck && 'line-through')}>
                  {day(check.at)}, {clockAt(check.at, timeZone)}
                </span>
                <span className="block text-[12px] text-soft">
                  {check.timed === 'file' ? 'by its files' : 'as typed'}, {check.warmUps} warm-up pulls
                </span>
              </td>
              <td className="num">{signed(check.off, 2)} %</td>
              <td className="num">{number(check.sd, 2)} %</td>
              <td>
                {check.struck ? (
                  <>
                    crossed out by {check.struck.by}: {check.struck.reason}
                  </>
                ) : check.chart ? (
                  <>
                    <span className="whitespace-nowrap">
                      {signed(check.chart.ewma, 2)} % (±{number(check.chart.limit, 2)})
                    </span>
                    {check.chart.alarm && (
                      <span className="block">
                        <Mark tone="loss">out of limits</Mark>
                      </span>
                    )}
                    {check.chart.single && (
                      <span className="block text-[12px] text-soft">this one alone is unusual</span>
                    )}
                  </>
                ) : (
                  'reference'
                )}
              </td>
              <td className="whitespace-nowrap">
                {check.files.map((file) => (
                  <a
                    key={file.sha256}
                    href={`/api/control-checks/${check.id}/files/${file.position}`}
                    title={`${file.name}, SHA-256 ${file.sha256}`}
                    aria-label={`pull ${file.position}`}
                    className="inline-block min-w-6 py-1 text-center underline"
                  >
                    {file.position}
                  </a>
                ))}
              </td>
              <td>{check.enteredBy}</td>
              {mayManage && (
                <td>
                  {!check.struck && (
                    <Button small onClick={() => setStriking(check)}>
                      Cross out
                    </Button>
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {striking && (
        <ReasonDialog
          title={`Cross out the check of ${day(striking.at)}?`}
          hint="what was wrong with the check itself: a slipping tyre, another gear, the wrong files"
          verb="Cross it out"
          least={10}
          takesAway
          saving={isLoading}
          problem={error}
          save={async (reason) => {
            if ('error' in (await strike({ id: striking.id, reason }))) return false;
            setStriking(null);
            return true;
          }}
          onClose={() => setStriking(null)}
        />
      )}
    </div>
  );
}
