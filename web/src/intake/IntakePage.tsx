/** Intake: which battery, and can it be ready when promised? The plan stands beside the form, before acceptance. */
import { useMutation } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { useForm, useWatch } from 'react-hook-form';
import { sayTrouble } from '../ui/say.ts';
import { PackageOpen, Undo2 } from 'lucide-react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { isTaken, LITHIUM_REFUSAL, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord, JobAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import { proceduresFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { localText, momentOf } from '@cork-ember/core/clock/localTime.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { nextOpenMoment, openSpanFrom, type ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { shopNow, useNow } from '../api/clock.ts';
import { usePerson } from '../api/person.ts';
import { useOpenJobs } from '../api/jobs.ts';
import {
  knownBattery,
  queryClient,
  useBattery,
  useBatteryPage,
  useClock,
  useNextTag,
  useShop,
  useTypes,
} from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { LowStock } from '../ui/LowStock.tsx';
import { Notice } from '../ui/Notice.tsx';
import { fetchSoon, later } from '../ui/later.tsx';
import { chargerName } from '../ui/chargerName.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { MomentField } from '../ui/MomentField.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Tick } from '../ui/Tick.tsx';
import { DateCodeField } from '../label/DateCodeField.tsx';
import { readLabel, useLabelCheck } from '../label/readLabel.ts';
import { keepPhotos } from '../label/keepPhotos.ts';
import { typeChoices } from '../label/typeChoices.ts';
import { Field } from '../ui/Field.tsx';
import { intakeResolver, type IntakeForm } from './intakeForm.ts';
import { usePlan } from './usePlan.ts';
import { usualOwner } from './usualOwner.ts';
import { Title } from '../ui/Title.tsx';
import { buttonClass } from '../ui/Button.tsx';
import { box } from '../ui/box.ts';

const ToldFields = later(async () => (await import('./ToldFields.tsx')).ToldFields);
const PlanPanel = later(async () => (await import('./PlanPanel.tsx')).PlanPanel);
const LabelPhotos = later(async () => (await import('../label/LabelPhotos.tsx')).LabelPhotos);
const LabelForm = later(async () => (await import('../label/LabelForm.tsx')).LabelForm);

interface FormProps {
  readonly shop: Shop;
  readonly types: readonly ListedType[];
  /** The one that is taken in again. */
  readonly known: BatteryRecord | undefined;
  /** The next tag of the shop's own row. */
  readonly nextTag: string;
  readonly freeBays: readonly number[];
}

const HALF_HOUR = 1_800_000;

/** The next half hour the shop is open after it is ready. */
function promiseFor(readyAt: number, hours: ShopHours): number {
  const half = Math.ceil((readyAt + 1) / HALF_HOUR) * HALF_HOUR;
  return nextOpenMoment(hours, half);
}

function IntakeFormView({ shop, types, known, nextTag, freeBays }: FormProps) {
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const [by] = usePerson();
  const now = useNow();
  const { timeZone } = shop.hours;
  const initial = useMemo((): IntakeForm => {
    const at = shopNow();
    const tomorrow = openSpanFrom(shop.hours, openSpanFrom(shop.hours, at).to);
    const asked = Number(params.get('bay'));
    const { tag = nextTag, typeId = '', serial = '', dateCode = '', owner = '' } = known ?? {};
    return {
      battery: { tag, typeId, serial, dateCode, owner },
      bay: freeBays.includes(asked) ? asked : (freeBays[0] ?? SHELF),
      promisedAt: tomorrow.to - 3_600_000,
    };
  }, [known, nextTag, freeBays, params, shop.hours]);
  const form = useForm<IntakeForm>({
    defaultValues: initial,
    resolver: async (...asked) => (await intakeResolver.fetch())(...asked),
  });
  useEffect(() => void fetchSoon(intakeResolver), []);
  // Read off its label, where the list has no such type.
  const [answers, setAnswers] = useState<LabelAnswers>();
  const [isKept, setKept] = useState(true);
  const [photos, setPhotos] = useState<readonly File[]>([]);
  const { register, handleSubmit, formState, setValue, control } = form;
  const watched = useWatch({ control });
  const mark = watched.battery?.tag?.trim().toUpperCase() ?? '';
  const check = useLabelCheck(answers !== undefined);
  const read = answers && readLabel(answers, mark, check);
  const own = read && 'type' in read ? read.type : undefined;
  const type = answers ? own : types.find((one) => one.id === watched.battery?.typeId);
  const works = type ? proceduresFor(type) : [];
  const work = works.find(({ id }) => id === watched.procedure) ?? works[0];
  const planned = usePlan({
    shop,
    type: type && isTaken(type) ? type : undefined,
    procedure: work?.id,
    battery: watched.battery,
    bay: watched.bay,
    promisedAt: watched.promisedAt,
    now,
  });
  // Until somebody promises something else, what the plan can keep is promised.
  const [isPromised, setIsPromised] = useState(false);
  const keepable = planned && !work?.routes ? promiseFor(planned.plan.readyAt, shop.hours) : undefined;
  useEffect(() => {
    if (!isPromised && keepable !== undefined) setValue('promisedAt', keepable);
  }, [isPromised, keepable, setValue]);
  // A type of its own is named as its label makes it.
  const ownId = own?.id;
  useEffect(() => {
    if (ownId !== undefined) setValue('battery.typeId', ownId);
  }, [ownId, setValue]);
  const requestKey = useMemo(() => uuid(), []);
  const accept = useMutation({
    mutationFn: async (values: IntakeForm) => {
      if (by === '') throw new Error('Say who is at the bench first, at the top right.');
      const { procedure, told, ...rest } = values;
      const chosen = works.some(({ id }) => id === procedure) ? { procedure } : {};
      const said = work?.routes
        ? { told: { complaint: 'unknown' as const, whose: usualOwner(rest.battery.owner), ...told } }
        : {};
      const waits = planned?.waitsFor ? { plannedAt: Math.ceil(planned.waitsFor.freeAt) } : {};
      if (answers && !own) throw new Error('The label wants a figure more: see what it says there.');
      const type = own ? { type: isKept ? own : { ...own, isRetired: true } } : {};
      const opened = await ask<JobAnswer>('/api/jobs', {
        ...rest,
        ...type,
        ...chosen,
        ...said,
        ...waits,
        by,
        requestKey,
      });
      // The battery is in, whatever becomes of its pictures.
      if (answers)
        await keepPhotos(opened, photos, by).catch((error: unknown) => sayTrouble(sentenceOf(error)));
      return opened;
    },
    onSuccess: (answer) => {
      // With pictures there is more of it than was answered.
      if (photos.length === 0) queryClient.setQueryData(['job', answer.id], answer);
      void navigate(`/jobs/${answer.id}`);
    },
  });
  const { errors } = formState;
  /** A field that is chosen, not typed: what was wrong with it is looked at anew. */
  const choose: typeof setValue = (name, value) =>
    setValue(name, value, { shouldValidate: formState.isSubmitted });
  const takeKnown = async (typed: string): Promise<void> => {
    const tag = typed.trim().toUpperCase();
    if (tag === '' || tag === nextTag) return;
    const there = await knownBattery(tag).catch(() => undefined);
    // Nothing where the shop has none, where it cannot be asked, or where another was typed meanwhile.
    if (there?.tag !== form.getValues('battery.tag').trim().toUpperCase()) return;
    const { typeId, serial, dateCode, owner } = there;
    setValue('battery', { tag: there.tag, typeId, serial, dateCode, owner });
  };
  const { data: found } = useBatteryPage({ words: mark, where: 'anywhere', sort: 'tag', page: 0 });
  return (
    <form
      onSubmit={(event) => {
        handleSubmit((values) => accept.mutate(values))(event).catch((error: unknown) => {
          intakeResolver.forgetFailed();
          sayTrouble(sentenceOf(error));
        });
      }}
      noValidate
      className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
    >
      <div className="space-y-4">
        <div className="grid grid-cols-2 gap-4">
          <Field
            id="tag"
            label="Tag"
            error={errors.battery?.tag?.message}
            hint="A new one, or one from the ledger."
          >
            <input
              id="tag"
              list="tags"
              maxLength={16}
              autoComplete="off"
              aria-invalid={errors.battery?.tag !== undefined}
              className={box({ className: 'reading uppercase' })}
              {...register('battery.tag', {
                onBlur: (event: { target: { value: string } }) => void takeKnown(event.target.value),
              })}
            />
            <datalist id="tags">
              {found?.rows.map(({ tag }) => (
                <option key={tag} value={tag} />
              ))}
            </datalist>
          </Field>
          <Field id="serial" label="Serial" error={errors.battery?.serial?.message} hint="If it has one.">
            <input
              id="serial"
              maxLength={80}
              autoComplete="off"
              className={box({ className: 'reading' })}
              {...register('battery.serial')}
            />
          </Field>
        </div>
        <Field
          id="type"
          label="Type on the label"
          error={errors.battery?.typeId?.message}
          beside={
            <Button
              tone="quiet"
              onClick={() => {
                setAnswers(answers ? undefined : {});
                choose('battery.typeId', '');
              }}
            >
              {answers ? 'Back to the list' : 'Not in the list: read it off the label'}
            </Button>
          }
        >
          {answers ? (
            <p className="mt-1 text-soft">Not of the list: as its label says, below.</p>
          ) : (
            <Combobox
              id="type"
              isFirst
              isInvalid={errors.battery?.typeId !== undefined}
              className="mt-1 w-full"
              value={watched.battery?.typeId ?? ''}
              choices={typeChoices(types, watched.battery?.typeId)}
              empty="Nothing of the list is called so: read it off the label."
              onChoose={(typeId) => choose('battery.typeId', typeId)}
            />
          )}
        </Field>
        {answers && (
          <>
            <LabelForm types={types} mark={mark} answers={answers} onAnswers={setAnswers} />
            <LabelPhotos photos={photos} onPhotos={setPhotos} />
            <Tick label="Keep the type in the list for the next one" isOn={isKept} onChange={setKept} />
          </>
        )}
        {type && !isTaken(type) && <Notice tone="stop">{LITHIUM_REFUSAL}</Notice>}
        <div className="grid grid-cols-2 gap-4">
          <Field
            id="date-code"
            label="Date code"
            error={errors.battery?.dateCode?.message}
            hint="As stamped; nothing where nobody knows it."
          >
            <DateCodeField
              id="date-code"
              now={now}
              isInvalid={errors.battery?.dateCode !== undefined}
              className={box({ className: 'reading' })}
              value={watched.battery?.dateCode ?? ''}
              onChange={(dateCode) => choose('battery.dateCode', dateCode)}
            />
          </Field>
          <Field id="owner" label="For" error={errors.battery?.owner?.message} hint="A customer, or “stock”.">
            <input
              id="owner"
              maxLength={100}
              autoComplete="off"
              aria-invalid={errors.battery?.owner !== undefined}
              className={box()}
              {...register('battery.owner')}
            />
          </Field>
        </div>
        {works.length > 1 && (
          <Field id="work" label="Work">
            <Combobox
              id="work"
              className="mt-1 w-full"
              value={work?.id ?? ''}
              choices={works.map(({ id, title }) => ({ value: id, label: title }))}
              onChoose={(id) => choose('procedure', id)}
            />
          </Field>
        )}
        {work?.routes && (
          <ToldFields
            told={watched.told}
            owner={watched.battery?.owner}
            errors={errors.told}
            onChange={(told) => setValue('told', told)}
          />
        )}
        <div className="grid gap-4 sm:grid-cols-2">
          <Field id="bay" label="Bay" error={errors.bay?.message}>
            <Combobox
              id="bay"
              className="mt-1 w-full"
              value={String(watched.bay ?? SHELF)}
              choices={[
                ...freeBays.map((number) => ({
                  value: String(number),
                  label: `${number} · ${chargerName(shop, shop.bays.find((bay) => bay.number === number)?.charger)}`,
                })),
                { value: String(SHELF), label: 'Waits on the shelf, no bay yet' },
              ]}
              onChoose={(bay) => choose('bay', Number(bay))}
            />
          </Field>
          <Field id="promised" label="Promised" error={errors.promisedAt?.message}>
            <MomentField
              id="promised"
              isInvalid={errors.promisedAt !== undefined}
              value={localText(watched.promisedAt ?? initial.promisedAt, timeZone)}
              now={now}
              hours={shop.hours}
              onChange={(text) => {
                setIsPromised(true);
                choose('promisedAt', momentOf(text, timeZone));
              }}
            />
          </Field>
        </div>
        <label className="flex min-h-12 items-center gap-3">
          <input type="checkbox" className="size-6 accent-(--verdigris)" {...register('fitting')} />
          It is fitted to its vehicle here
        </label>
        {accept.error && <Notice tone="stop">{sentenceOf(accept.error)}</Notice>}
        <Button
          type="submit"
          tone="go"
          className="min-h-16 w-full text-lg"
          disabled={accept.isPending || (type && !isTaken(type))}
        >
          Accept and open the run sheet
        </Button>
      </div>
      <div className="lg:sticky lg:top-5 lg:self-start">
        <PlanPanel shop={shop} planned={planned} now={now} />
      </div>
    </form>
  );
}

export function IntakePage() {
  const shops = useShop();
  const { data: shop } = shops;
  const listed = useTypes();
  const { data: types } = listed;
  const [params] = useSearchParams();
  const asked = params.get('tag')?.trim().toUpperCase() ?? '';
  const tags = useNextTag();
  const { data: next } = tags;
  const again = useBattery(asked);
  const open = useOpenJobs();
  const { jobs } = open;
  // A promise is made from now on: not before it is known what o’clock it is.
  const clock = useClock();
  const busy = jobs.map((job) => job.state.bay).join();
  const freeBays = useMemo(
    () =>
      shop?.bays.map((bay) => bay.number).filter((number) => !busy.split(',').includes(String(number))) ?? [],
    [shop, busy],
  );
  if (!shop || !types || !next || !open.data || !clock.data || again.isLoading)
    return <Waiting on={[shops, listed, tags, open, clock]} />;
  return (
    <div className="p-5" data-scans="">
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <Title className="mr-auto text-2xl font-bold">Take a battery in</Title>
        <LowStock />
        <Link to="/delivery" className={buttonClass()}>
          <PackageOpen aria-hidden className="size-5" /> A delivery: several at once
        </Link>
        <Link to="/brought" className={buttonClass()}>
          <Undo2 aria-hidden className="size-5" /> Several brought back
        </Link>
      </div>
      {freeBays.length === 0 && (
        <div className="mb-4">
          <Notice tone="caution">
            Every bay is taken: it is taken in all the same, and waits on the shelf for the first that is
            free.
          </Notice>
        </div>
      )}
      <IntakeFormView shop={shop} types={types} known={again.data} nextTag={next.tag} freeBays={freeBays} />
    </div>
  );
}
