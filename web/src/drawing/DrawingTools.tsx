import { DRAWING_SHEETS, strokeTints } from '@varrup/core';
import { Eraser, Eye, EyeOff, Layers2, Paintbrush, Pencil } from 'lucide-react';
import type { ComponentType } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { useDrawing, widths } from './drawing-tool.ts';
import { tints } from './raster.ts';

const signs = { pencil: Pencil, rubber: Eraser, tone: Paintbrush } as const;

/** What one draws with: tool, width, tint. @param low without widths, where there is little room */
export function DrawingTools({ low = false }: { low?: boolean }) {
  const { tool, tint, wide } = useDrawing();
  return (
    <>
      <fieldset className="flex shrink-0 rounded-full bg-well p-0.5 border-0" aria-label="Drawing tool">
        {(['pencil', 'tone', 'rubber'] as const).map((name) => {
          const Sign: ComponentType<{ size?: number }> = signs[name];
          return (
            <Hint key={name} text={commandOf(`draw.${name}`).label} keys={shortcutOf(`draw.${name}`)}>
              <button
                type="button"
                aria-pressed={tool === name}
                onClick={() => commandOf(`draw.${name}`).run()}
                className="flex h-6 items-center gap-1 rounded-full px-2.5 text-sm text-graphite aria-pressed:bg-card aria-pressed:font-medium aria-pressed:text-blue aria-pressed:shadow-sm"
              >
                <Sign size={13} /> {name}
              </button>
            </Hint>
          );
        })}
      </fieldset>
      {low ? null : (
        <fieldset className="flex shrink-0 items-center gap-0.5 border-0" aria-label="How broad">
          {widths[tool].map((w, i) => (
            <Hint
              key={w}
              text={`Broad: ${i + 1} of ${widths[tool].length}`}
              keys={`${shortcutOf('draw.finer')} ${shortcutOf('draw.broader')}`}
            >
              <button
                type="button"
                aria-label={`Width ${i + 1} of ${widths[tool].length}`}
                aria-pressed={Math.abs(wide[tool] - w) < 1e-9}
                onClick={() => useDrawing.setState({ wide: { ...wide, [tool]: w } })}
                className="grid size-6 place-items-center rounded-md hover:bg-well aria-pressed:bg-blue-wash"
              >
                <span className="rounded-full bg-ink" style={{ width: 3 + i * 3.5, height: 3 + i * 3.5 }} />
              </button>
            </Hint>
          ))}
        </fieldset>
      )}
      {tool === 'rubber' ? null : (
        <fieldset className="flex shrink-0 items-center gap-0.5 border-0" aria-label="Tint">
          {strokeTints.map((name) => (
            <Hint key={name} text={`Draw in ${name}`}>
              <button
                type="button"
                aria-label={name}
                aria-pressed={tint === name}
                onClick={() => useDrawing.setState({ tint: name })}
                className="grid size-6 place-items-center rounded-md hover:bg-well aria-pressed:bg-blue-wash aria-pressed:ring-1 aria-pressed:ring-blue"
              >
                <span className="size-3.5 rounded-full border border-ink/20" style={{ background: tints[name] }} />
              </button>
            </Hint>
          ))}
        </fieldset>
      )}
    </>
  );
}

const sheetWords = ['under', 'middle', 'over'] as const;

/** The sheets of a drawing, uppermost first: which is drawn on, and which are seen. */
export function DrawingSheets() {
  const { sheet, hidden } = useDrawing();
  return (
    <fieldset className="flex shrink-0 items-center gap-0.5 border-0" aria-label="Sheets of the drawing">
      <Layers2 size={14} className="text-graphite" aria-hidden />
      {Array.from({ length: DRAWING_SHEETS }, (_, i) => DRAWING_SHEETS - 1 - i).map((i) => (
        <span key={i} className="flex items-center">
          <Hint text={`Draw on the sheet ${sheetWords[i]}`} keys={shortcutOf('draw.sheet')}>
            <Button
              className="h-6! px-1.5! text-sm"
              aria-pressed={sheet === i}
              onClick={() => useDrawing.setState({ sheet: i, hidden: hidden.filter((h) => h !== i) })}
            >
              {sheetWords[i]}
            </Button>
          </Hint>
          <Button
            look="icon"
            className="size-5!"
            aria-label={`${hidden.includes(i) ? 'Show' : 'Hide'} the sheet ${sheetWords[i]}`}
            onClick={() =>
              useDrawing.setState({ hidden: hidden.includes(i) ? hidden.filter((h) => h !== i) : [...hidden, i] })
            }
          >
            {hidden.includes(i) ? <EyeOff size={12} /> : <Eye size={12} className="text-graphite" />}
          </Button>
        </span>
      ))}
    </fieldset>
  );
}
