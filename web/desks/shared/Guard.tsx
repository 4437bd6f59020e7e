import { Component, type ReactNode } from 'react';

interface Props {
  /** What is inside, as it is told when it breaks: "This line". */
  what: string;
  /** Takes the last change back, where there is one. */
  onUndo?(): void;
  /** Inside is tried again when this changes. */
  retry?: unknown;
  children: ReactNode;
}

/** Keeps what breaks inside from taking the rest of the page with it. */
export class Guard extends Component<Props, { broken: Error | null }> {
  override state = { broken: null as Error | null };

  static getDerivedStateFromError(broken: Error) {
    return { broken };
  }

  override componentDidUpdate(before: Props): void {
    if (this.state.broken && before.retry !== this.props.retry) this.setState({ broken: null });
  }

  override render(): ReactNode {
    const { broken } = this.state;
    if (!broken) return this.props.children;
    const { what, onUndo } = this.props;
    return (
      <div role="alert" className="m-2 rounded-md border border-rule bg-sheet p-3 text-sm">
        <p className="font-medium">{what} cannot be shown.</p>
        <p className="mt-0.5 text-soft">
          Its settings are kept as they are ({broken.message.slice(0, 160)}).{' '}
          {onUndo ? 'Take the last change back, or try again.' : 'Try again, or reload the page.'}
        </p>
        <div className="mt-2 flex gap-2">
          {onUndo && (
            <button type="button" className="quiet h-8" onClick={onUndo}>
              Undo the last change
            </button>
          )}
          <button type="button" className="quiet h-8" onClick={() => this.setState({ broken: null })}>
            Try again
          </button>
        </div>
      </div>
    );
  }
}
