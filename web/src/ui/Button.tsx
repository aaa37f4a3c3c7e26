import type { LucideIcon } from 'lucide-react';
import type { ButtonHTMLAttributes, ComponentProps, ReactNode } from 'react';
import { Link } from 'react-router';

interface Looks {
  /** The main action of a page or panel. Use one. */
  main?: boolean;
  /** Shown before the label, and after it. */
  icon?: LucideIcon;
  after?: LucideIcon;
  /** Layout only: margins and width. */
  className?: string;
  children?: ReactNode;
}

/** Icon sizes, px. */
const ICON = 18;
const ICON_ALONE = 20;

const look = (main: boolean, className: string): string =>
  `btn ${main ? 'btn-primary' : 'btn-plain'}${className === '' ? '' : ` ${className}`}`;

function Words({ icon: Before, after: After, children }: Looks) {
  return (
    <>
      {Before ? <Before size={ICON} aria-hidden="true" /> : null}
      {Before ? ' ' : null}
      {children}
      {After ? ' ' : null}
      {After ? <After size={ICON} aria-hidden="true" /> : null}
    </>
  );
}

type Native = Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'className' | 'children'>;

/** A button with a label. */
export function Button({
  main = false,
  icon,
  after,
  className = '',
  children,
  type = 'button',
  ...native
}: Looks & Native) {
  return (
    <button {...native} type={type} className={look(main, className)}>
      <Words icon={icon} after={after}>
        {children}
      </Words>
    </button>
  );
}

/** A button that shows only an icon. The label is its tooltip and what a screen reader says. */
export function IconButton({
  icon: Icon,
  label,
  main = false,
  className = 'px-2.5',
  type = 'button',
  ...native
}: Omit<Looks, 'after' | 'children'> & { icon: LucideIcon; label: string } & Omit<Native, 'title'>) {
  return (
    <button {...native} type={type} title={label} className={look(main, className)}>
      <Icon size={ICON_ALONE} aria-hidden="true" />
      <span className="sr-only">{label}</span>
    </button>
  );
}

/** A link to a page or file that looks like a button. */
export function LinkButton({
  main = false,
  icon,
  after,
  className = '',
  children,
  ...link
}: Looks &
  (
    | ({ to: ComponentProps<typeof Link>['to'] } & Omit<
        ComponentProps<typeof Link>,
        'className' | 'children'
      >)
    | ({ href: string } & Omit<ComponentProps<'a'>, 'className' | 'children' | 'href'>)
  )) {
  const words = (
    <Words icon={icon} after={after}>
      {children}
    </Words>
  );
  return 'to' in link ? (
    <Link {...link} className={look(main, className)}>
      {words}
    </Link>
  ) : (
    <a {...link} className={look(main, className)}>
      {words}
    </a>
  );
}
