import { Moon, Sun } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useRoving } from './roving.ts';

interface Props {
  desk: 'intake' | 'stage' | 'reel' | 'gauges' | 'sheets' | 'report';
  /** Address of the scene that the Stage desk leads to. */
  stageHref: string | null;
  /** Goes to a desk on the stage of this page. */
  onDesk?(desk: 'stage' | 'reel' | 'gauges'): void;
  title?: ReactNode;
  children?: ReactNode;
}

/** The bar above every desk: where one is, the desks in the order of the work, and what belongs to the desk. */
export function TopBar({ desk, stageHref, onDesk, title, children }: Props) {
  const bar = useRoving<HTMLElement>();
  return (
    <header ref={bar} className="flex h-12 shrink-0 items-center gap-4 border-b border-rule bg-paper px-4">
      <a
        href="/"
        className="flex items-center gap-2 font-book text-xl font-semibold tracking-tight"
        aria-label="Dresser, all scenes"
      >
        <img src="/mark.svg" alt="" className="size-6" />
        Dresser
      </a>
      <nav aria-label="Desks" className="flex h-full items-stretch gap-1">
        <DeskLink href="/" here={desk === 'intake'}>
          Intake
        </DeskLink>
        <DeskLink href={stageHref} here={desk === 'stage'} onGo={onDesk && (() => onDesk('stage'))}>
          Stage
        </DeskLink>
        <DeskLink
          href={stageHref && `${stageHref}#reel`}
          here={desk === 'reel'}
          onGo={onDesk && (() => onDesk('reel'))}
        >
          Reel
        </DeskLink>
        <DeskLink
          href={stageHref && `${stageHref}#gauges`}
          here={desk === 'gauges'}
          onGo={onDesk && (() => onDesk('gauges'))}
        >
          Gauges
        </DeskLink>
        <DeskLink href="/sheets" here={desk === 'sheets'}>
          Sheets
        </DeskLink>
        <DeskLink href="/report" here={desk === 'report'}>
          Report
        </DeskLink>
      </nav>
      <div className="min-w-0 flex-1">{title}</div>
      {children}
      <ThemeSwitch />
    </header>
  );
}

interface DeskLinkProps {
  href: string | null;
  here: boolean;
  /** Goes there without leaving the page. */
  onGo?(): void;
  children: ReactNode;
}

function DeskLink({ href, here, onGo, children }: DeskLinkProps) {
  const look = `flex items-center border-b-2 px-2.5 pt-0.5 ${here ? 'border-accent font-semibold' : 'border-transparent text-soft hover:text-ink'}`;
  if (!href) return <span className={`${look} opacity-40`}>{children}</span>;
  return (
    <a
      href={href}
      className={look}
      aria-current={here ? 'page' : undefined}
      onClick={(e) => {
        if (!onGo || e.metaKey || e.ctrlKey || e.shiftKey) return;
        e.preventDefault();
        onGo();
      }}
    >
      {children}
    </a>
  );
}

function ThemeSwitch() {
  const [theme, setTheme] = useState(document.documentElement.dataset.theme ?? 'light');
  const other = theme === 'light' ? 'dark' : 'light';
  const change = () => {
    document.documentElement.dataset.theme = other;
    localStorage.setItem('theme', other);
    setTheme(other);
  };
  return (
    <button
      type="button"
      className="mark"
      onClick={change}
      aria-label={`Use the ${other} theme`}
      title={`Use the ${other} theme`}
    >
      {theme === 'light' ? <Moon size={17} /> : <Sun size={17} />}
    </button>
  );
}
