import { Button, Checkbox, InputNumber, Progress } from 'antd';
import { TRIAL_NAMES, type Trial, type TrialName } from '@tinfold/core/proof';
import { useScreen } from '../screen/Screen';
import { usualTrial } from './proofStore';
import { TRIAL_WORDS } from './words';

/** The number that a trial can be set by, with its limits and unit; none for those that have no setting. */
function settingOf(trial: Trial):
  | {
      readonly key: string;
      readonly value: number;
      readonly unit: string;
      readonly min: number;
      readonly max: number;
    }
  | undefined {
  switch (trial.kind) {
    case 'longer-text':
      return { key: 'percent', value: trial.percent, unit: '%', min: 5, max: 400 };
    case 'larger-type':
      return { key: 'percent', value: trial.percent, unit: '%', min: 105, max: 400 };
    case 'long-word':
      return { key: 'letters', value: trial.letters, unit: 'letters', min: 8, max: 80 };
    case 'empty-text':
    case 'hidden-part':
      return { key: 'percent', value: trial.percent, unit: '%', min: 1, max: 100 };
    case 'more-instances':
      return { key: 'more', value: trial.more, unit: 'more', min: 1, max: 40 };
    case 'fewer-instances':
      return { key: 'left', value: trial.left, unit: 'left', min: 1, max: 20 };
    case 'flat-frame':
      return { key: 'height', value: trial.height, unit: 'px', min: 200, max: 900 };
    default:
      return undefined;
  }
}

/** The trials as switches with their settings, and how the run stands. */
export function TrialsPanel() {
  const { proof } = useScreen();
  const trials = proof((s) => s.trials);
  const phase = proof((s) => s.phase);
  const done = proof((s) => s.done);
  const ms = proof((s) => s.ms);
  const { setTrial, stop, prove } = proof.getState();
  const { use } = useScreen();
  return (
    <section className="panel" aria-label="Trials">
      <header className="panel-head">
        <b>Trials</b>
        <span>{trials.size === 0 ? 'as it is alone' : `${trials.size} of ${TRIAL_NAMES.length} on`}</span>
      </header>
      <div className="run-line" role="status">
        {phase === 'running' || phase === 'waiting' ? (
          <>
            <Progress
              percent={Math.round(done * 100)}
              size="small"
              showInfo={false}
              aria-label="How far the proof has come"
            />
            <Button size="small" type="text" onClick={stop}>
              Stop
            </Button>
          </>
        ) : phase === 'stopped' ? (
          <>
            <span>Stopped: what is shown may be old.</span>
            <Button
              size="small"
              type="text"
              onClick={() => {
                prove(use.getState().doc);
              }}
            >
              Run
            </Button>
          </>
        ) : (
          <span>Every px from 320 to 1920, {(ms / 1000).toFixed(1)} s</span>
        )}
      </div>
      <ul className="trials">
        {TRIAL_NAMES.map((name) => (
          <TrialRow
            key={name}
            name={name}
            trial={trials.get(name)}
            onChange={(trial) => {
              setTrial(name, trial);
            }}
          />
        ))}
      </ul>
    </section>
  );
}

interface TrialRowProps {
  readonly name: TrialName;
  readonly trial: Trial | undefined;
  readonly onChange: (trial: Trial | undefined) => void;
}

function TrialRow({ name, trial, onChange }: TrialRowProps) {
  const setting = trial && settingOf(trial);
  return (
    <li>
      <Checkbox
        checked={trial !== undefined}
        onChange={(e) => {
          onChange(e.target.checked ? usualTrial(name) : undefined);
        }}
      >
        {TRIAL_WORDS[name]}
      </Checkbox>
      {trial && setting && (
        <InputNumber
          size="small"
          controls={false}
          value={setting.value}
          min={setting.min}
          max={setting.max}
          precision={0}
          suffix={setting.unit}
          aria-label={`${TRIAL_WORDS[name]}: ${setting.unit}`}
          changeOnBlur
          onChange={(value) => {
            if (value !== null && value !== setting.value) onChange({ ...trial, [setting.key]: value });
          }}
        />
      )}
    </li>
  );
}
