import { type Build, boxOf } from '@varrup/core';
import { toast } from 'sonner';
import { Button } from '../ui/Button.tsx';
import { Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { endStroke, paintingNow, useBuilding } from './build-store.ts';
import { Section } from './Section.tsx';

const does = [
  ['more', 'more', 'More of the picked joint'],
  ['less', 'less', 'Less of the picked joint'],
  ['even', 'even', 'Even out what lies side by side'],
] as const;

/** The brush that weights are painted with. */
export function PaintSection({ build }: { build: Build }) {
  const brush = useBuilding((b) => b.brush);
  const set = (change: Partial<typeof brush>) => useBuilding.setState({ brush: { ...brush, ...change } });
  const { min, max } = boxOf(build);
  return (
    <Section
      title="Paint weights"
      about="Press and draw on the body. Its weights stay whole: others give what one gets."
    >
      <span className="flex gap-1">
        {does.map(([value, word, about]) => (
          <Hint key={value} text={about}>
            <Button look="pill" aria-pressed={brush.does === value} onClick={() => set({ does: value })}>
              {word}
            </Button>
          </Hint>
        ))}
      </span>
      <Row label="reach">
        <NumberField
          label="reach of the brush"
          value={brush.reach}
          unit="m"
          step={0.01}
          digits={3}
          min={0.001}
          max={Math.max(1, max[1] - min[1])}
          onChange={(reach) => set({ reach })}
        />
      </Row>
      <Row label="strength">
        <NumberField
          label="strength of the brush"
          value={brush.strength * 100}
          unit="%"
          step={5}
          digits={0}
          min={1}
          max={100}
          onChange={(percent) => set({ strength: percent / 100 })}
        />
      </Row>
      <Hint text="Give the right half what the left half has, in the mirror">
        <Button
          look="pill"
          className="self-start"
          onClick={() => {
            const alone = paintingNow()?.mirror() ?? 0;
            endStroke('mirror weights');
            if (alone > 0) toast(`${alone} points of the right half have no counterpart, and stay as they were.`);
          }}
        >
          mirror left onto right
        </Button>
      </Hint>
    </Section>
  );
}
