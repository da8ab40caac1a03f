import type { ButtonHTMLAttributes, Ref } from 'react';

type Look = 'plain' | 'pill' | 'solid' | 'icon';

const looks: Record<Look, string> = {
  plain: 'px-2 h-7 rounded-md hover:bg-well',
  pill: 'px-3 h-7 rounded-full border border-rule bg-card hover:bg-well',
  solid: 'px-4 h-8 rounded-full bg-ink text-on-solid hover:opacity-85',
  icon: 'size-7 grid place-items-center rounded-md hover:bg-well',
};

/** A button. `aria-pressed` shows it pressed. */
export function Button({
  look = 'plain',
  className = '',
  ref,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; ref?: Ref<HTMLButtonElement> }) {
  return (
    <button
      type="button"
      ref={ref}
      className={`${looks[look]} transition-colors select-none whitespace-nowrap disabled:opacity-40 aria-pressed:bg-blue-wash aria-pressed:text-blue ${className}`}
      {...rest}
    />
  );
}
