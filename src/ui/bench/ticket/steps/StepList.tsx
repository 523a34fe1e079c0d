import { Plus } from 'lucide-react';
import { Dropdown } from 'react-bootstrap';
import { gistOf, isOfKind, stepOfKind, steps, type ListedKind } from '@/core/steps';
import { newStep, placeFor, stepsOn } from '@/core/recipe/order';
import { Menu } from '../../../parts/Menu';
import type { WorkBench } from '../../use-work';
import { editZone } from '../../stage/tools/tool';
import { useOpen } from '../open';
import { newZone } from '../zones/make';
import { StepRow } from './StepRow';
import { say } from '@/core/words/say';

type Phase = 'original' | 'target';

const isOf = (kinds: readonly ListedKind[], kind: string): kind is ListedKind =>
  kinds.some((one) => one === kind);

/** What a list of steps comes to, for the closed ticket. */
export function stepsLine(bench: WorkBench, phase: Phase): string {
  const { grid } = bench.work.framing;
  const on = stepsOn(bench.trial.treatment, phase).filter(
    ({ step }) =>
      step.on &&
      step.strength > 0 &&
      // Its true grid carries no blocks any more.
      !(grid && stepOfKind(step.kind).restsOnGrid),
  );
  const words = [...new Set(on.map(({ step }) => step.kind))]
    .map((kind) => {
      const same = on.filter(({ step }) => isOfKind(step, kind));
      // Several of a kind would not be read to their end.
      return same.length > 1
        ? `${same.length} × ${stepOfKind(kind).title.toLowerCase()}`
        : gistOf(same[0]!.step);
    })
    .join(', ');
  return words || (phase === 'target' ? 'nothing' : grid ? say`nothing to do` : 'untouched');
}

/** Steps that are also laid on by brush, each on a zone of its own. */
const BRUSHED: { kind: ListedKind; title: string; blurb: string; zone: string }[] = [
  {
    ...{ kind: 'smooth', title: say`Smooth by brush`, zone: say`Smoothed by hand` },
    blurb: say`Evens out where you paint.`,
  },
  {
    ...{ kind: 'unsharp', title: say`Sharpen by brush`, zone: say`Sharpened by hand` },
    blurb: say`An unsharp mask where you paint.`,
  },
];

interface Props {
  bench: WorkBench;
  phase: Phase;
  /** what may stand here */
  kinds: readonly ListedKind[];
}

/** The steps on one side of the enlargement, each to be switched, opened and repeated. */
export function StepList({ bench, phase, kinds }: Props) {
  const { trial, change } = bench;
  const present = stepsOn(trial.treatment, phase).filter(({ step }) => isOf(kinds, step.kind));
  const add = (kind: ListedKind) => {
    const at = placeFor(trial.treatment, kind, phase === 'target');
    change(say`${steps[kind].title} added`, (_, next) => {
      next.treatment.splice(at, 0, newStep(kind));
    });
    useOpen.setState({ step: at });
  };
  const brush = ({ kind, title, zone: name }: (typeof BRUSHED)[number]) => {
    const at = placeFor(trial.treatment, kind, phase === 'target');
    const zone = newZone(bench.work.zones, name);
    change(say`${title} begun`, (work, next) => {
      work.zones.push(zone);
      next.treatment.splice(at, 0, { ...newStep(kind), zone: zone.id });
    });
    useOpen.setState({ step: at });
    editZone(zone.id);
  };
  return (
    <div className="steps">
      {present.map(({ step, index }) => (
        <StepRow key={`${index} ${step.kind}`} bench={bench} step={step} index={index} />
      ))}
      <Dropdown>
        <Dropdown.Toggle className="text-button add-step" bsPrefix="btn" variant="link">
          <Plus size={14} /> {say`Add a step`}
        </Dropdown.Toggle>
        <Menu>
          {kinds.map((kind) => (
            <Dropdown.Item key={kind} onClick={() => add(kind)}>
              <b>{steps[kind].title}</b>
              <span>
                {steps[kind].blurb}
                {present.some(({ step }) => isOfKind(step, kind))
                  ? say` Again, with its own zone.`
                  : ''}
              </span>
            </Dropdown.Item>
          ))}
          {BRUSHED.filter(({ kind }) => kinds.includes(kind)).map((one) => (
            <Dropdown.Item key={one.title} onClick={() => brush(one)}>
              <b>{one.title}</b>
              <span>{one.blurb}</span>
            </Dropdown.Item>
          ))}
        </Menu>
      </Dropdown>
    </div>
  );
}
