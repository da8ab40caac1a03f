import { ChevronDown, Hand } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Toggle } from '../stage/MotionToggles.tsx';
import { Button } from '../ui/Button.tsx';
import { Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePerform } from './performing.ts';

/** Whether a drag in the stage performs, and how what the hand did becomes keys. */
export function PerformToggle() {
  const { armed, smooth, metres, radians } = usePerform();
  return (
    <span className="flex shrink-0 items-center">
      <Toggle id="perform.arm" on={armed}>
        <Hand size={14} aria-hidden />
        <span className="max-2xl:sr-only">perform</span>
      </Toggle>
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button
            look="icon"
            className="size-5! rounded-full! bg-card/90"
            aria-label="How performances become keys"
            title="How performances become keys"
          >
            <ChevronDown size={12} />
          </Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            sideOffset={6}
            aria-label="How performances become keys"
            data-beside
            className="z-20 flex w-60 flex-col gap-1.5 rounded-xl border border-rule bg-card p-3 shadow-xl"
          >
            <p className="text-sm text-graphite">
              Drag a handle or a control: the shot plays while it is held, and what the hand did becomes keys.
            </p>
            <Row label="evened">
              <NumberField
                label="Evened over so many frames each side"
                value={smooth}
                step={1}
                digits={0}
                whole
                min={0}
                max={24}
                onChange={(next) => usePerform.setState({ smooth: next })}
              />
            </Row>
            <Row label="within">
              <NumberField
                label="Keys within so many millimetres of the hand"
                value={metres * 1000}
                step={1}
                digits={1}
                min={0.1}
                max={1000}
                onChange={(next) => usePerform.setState({ metres: next / 1000 })}
              />
              <span className="text-sm text-graphite">mm</span>
              <NumberField
                label="Keys within so many degrees of the hand"
                value={(radians * 180) / Math.PI}
                step={0.1}
                digits={1}
                min={0.05}
                max={45}
                unit="°"
                onChange={(next) => usePerform.setState({ radians: (next * Math.PI) / 180 })}
              />
            </Row>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}
