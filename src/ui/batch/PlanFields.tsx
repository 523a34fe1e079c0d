import { useId, type ReactNode } from 'react';
import type { RuleBy } from '@/core/batch/typed-rule';
import { Fit } from '@/core/measure/paper';
import { Format, formatOf } from '@/core/output/formats';
import { useFolders } from '../data/batches';
import { useHouse } from '../data/house';
import { useLists } from '../data/queries';
import type { PlanColumn } from './plan-column';
import { hasQuality, LEAVE, RULES, stepsName, type Draft, type Troubles } from './draft';
import { say } from '@/core/words/say';

const FITS: Record<Fit, string> = {
  crop: say`cropped to it`,
  margin: say`whole, with margins`,
  stretch: say`stretched`,
};

/** What a field is called, itself, and what is wrong with it. */
export function Field({
  label,
  trouble,
  children,
}: {
  label: string;
  trouble?: string | undefined;
  children(id: string): ReactNode;
}) {
  const id = useId();
  return (
    <div className="plan-field">
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      {children(id)}
      {trouble && (
        <p className="trouble" role="alert">
          {trouble}
        </p>
      )}
    </div>
  );
}

interface Props {
  draft: Draft;
  troubles: Troubles;
  onChange(change: Partial<Draft>): void;
  /** fields may leave things as they are */
  leaving: boolean;
  /** whether pictures were ordered and treated before */
  ordered: boolean;
  /** the one thing that is decided; null where all are */
  only?: PlanColumn | null;
}

/** How large pictures are printed, how they are treated, and how their files are written: for many at once. */
export function PlanFields(props: Props) {
  const { only = null } = props;
  const shows = (...columns: PlanColumn[]) => only === null || columns.includes(only);
  return (
    <>
      {shows('print') && <SizeField {...props} />}
      {shows('steps') && <StepsField {...props} />}
      {shows('ppi', 'file') && (
        <div className="plan-row">
          {shows('ppi') && <PpiField {...props} />}
          {shows('file') && <FileFields {...props} />}
        </div>
      )}
    </>
  );
}

function PpiField({ draft, troubles, onChange, leaving, ordered }: Props) {
  return (
    <Field label={say`Resolution, ppi`} trouble={troubles.ppi}>
      {(id) => (
        <input
          id={id}
          className="form-control figure"
          value={draft.ppi}
          placeholder={leaving ? say`as it is` : ordered ? say`as ordered` : say`as the device`}
          autoComplete="off"
          onChange={({ target }) => onChange({ ppi: target.value })}
        />
      )}
    </Field>
  );
}

function FileFields({ draft, troubles, onChange, leaving }: Props) {
  return (
    <>
      <Field label={say`File`}>
        {(id) => (
          <select
            id={id}
            className="form-select"
            value={draft.format}
            onChange={({ target }) =>
              onChange({ format: Format.safeParse(target.value).data ?? LEAVE })
            }
          >
            <option value={LEAVE}>{leaving ? say`as it is` : say`as in its trial`}</option>
            {Format.options.map((format) => (
              <option key={format} value={format}>
                {formatOf(format).name}
              </option>
            ))}
          </select>
        )}
      </Field>
      {draft.format !== LEAVE && hasQuality(draft.format) && (
        <Field label={say`Quality`} trouble={troubles.quality}>
          {(id) => (
            <input
              id={id}
              className="form-control figure"
              value={draft.quality}
              autoComplete="off"
              onChange={({ target }) => onChange({ quality: target.value })}
            />
          )}
        </Field>
      )}
    </>
  );
}

function SizeField({ draft, troubles, onChange, leaving, ordered }: Props) {
  const { data: lists } = useLists();
  const { rule } = draft;
  const put = (change: Partial<Draft['rule']>) => onChange({ rule: { ...rule, ...change } });
  const options = (Object.keys(RULES) as RuleBy[]).filter((by) => ordered || by !== 'ordered');
  const sheets = lists?.sheets ?? [];
  return (
    <div className="plan-row">
      <Field label={say`Size`}>
        {(id) => (
          <select
            id={id}
            className="form-select"
            value={rule.by}
            onChange={({ target }) => {
              const by = target.value as Draft['rule']['by'];
              put({ by, text: by === 'sheet' ? (sheets[0]?.name ?? '') : '' });
            }}
          >
            {leaving && <option value={LEAVE}>{say`as it is`}</option>}
            {options.map((by) => (
              <option key={by} value={by}>
                {RULES[by].label}
              </option>
            ))}
          </select>
        )}
      </Field>
      {rule.by === 'sheet' && (
        <Field label={say`Which`} trouble={troubles.rule}>
          {(id) => (
            <select
              id={id}
              className="form-select"
              value={rule.text}
              onChange={({ target }) => put({ text: target.value })}
            >
              {sheets.map(({ name }) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          )}
        </Field>
      )}
      {rule.by !== LEAVE && rule.by !== 'ordered' && rule.by !== 'sheet' && (
        <Field label={say`How much`} trouble={troubles.rule}>
          {(id) => (
            <input
              id={id}
              className="form-control figure"
              value={rule.text}
              placeholder={RULES[rule.by as RuleBy].example}
              autoComplete="off"
              onChange={({ target }) => put({ text: target.value })}
            />
          )}
        </Field>
      )}
      {(rule.by === 'exact' || rule.by === 'sheet') && (
        <Field label={say`Other shapes`}>
          {(id) => (
            <select
              id={id}
              className="form-select"
              value={rule.fit}
              onChange={({ target }) => put({ fit: Fit.parse(target.value) })}
            >
              {Fit.options.map((fit) => (
                <option key={fit} value={fit}>
                  {FITS[fit]}
                </option>
              ))}
            </select>
          )}
        </Field>
      )}
    </div>
  );
}

function StepsField({ draft, onChange, leaving, ordered }: Props) {
  return (
    <Field label={say`Treated`}>
      {(id) => (
        <select
          id={id}
          className="form-select"
          value={draft.steps}
          onChange={({ target }) => onChange({ steps: target.value })}
        >
          <StepsOptions leaving={leaving} kept={ordered && !leaving} />
        </select>
      )}
    </Field>
  );
}

/** Ways to treat many pictures, as options of a list. */
export function StepsOptions({ leaving, kept }: { leaving: boolean; kept: boolean }) {
  const { data: recipes = [] } = useHouse();
  return (
    <>
      {leaving && <option value={LEAVE}>{say`as it is`}</option>}
      {kept && <option value="kept">{say`by the trial that each has`}</option>}
      <option value="suiting">{say`by the recipe that suits each`}</option>
      <option value="proposed">{say`as is proposed for each`}</option>
      <optgroup label={say`All by one house recipe`}>
        {recipes.map(({ id, name }) => (
          <option key={id} value={stepsName({ by: 'house', id })}>
            {name}
          </option>
        ))}
      </optgroup>
    </>
  );
}

/** What results are called and where they go. */
export function ResultFields({
  draft,
  troubles,
  onChange,
}: Pick<Props, 'draft' | 'troubles' | 'onChange'>) {
  const { data: folders } = useFolders();
  return (
    <div className="plan-row">
      <Field label={say`Results are called`} trouble={troubles.names}>
        {(id) => (
          <input
            id={id}
            className="form-control figure"
            value={draft.names}
            maxLength={120}
            spellCheck={false}
            autoComplete="off"
            onChange={({ target }) => onChange({ names: target.value })}
          />
        )}
      </Field>
      <Field label={say`Results go`}>
        {(id) => (
          <select
            id={id}
            className="form-select"
            value={draft.folder}
            onChange={({ target }) => onChange({ folder: target.value })}
          >
            <option value="">{say`nowhere, they are fetched here`}</option>
            {folders?.results.map((name) => (
              <option key={name} value={name}>
                {say`into “${name}”`}
              </option>
            ))}
          </select>
        )}
      </Field>
    </div>
  );
}
