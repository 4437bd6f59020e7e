import type { LivingFigure } from '#core/report/living-figure.ts';
import type { CarriedFigure } from './carried-figure.ts';
import { element } from './element.ts';
import { FigureView } from './figure-view.ts';
import { legendBar } from './legend-bar.ts';
import { atPlace, atStep, type Choice, momentOfChoice } from './moment-choice.ts';
import { sayProbed } from './say-probed.ts';

/** Radians that an arrow key turns by, and how much nearer a plus brings. */
const TURN = Math.PI / 24;
const NEARER = 1.15;
/** Steps that are played in a second. */
const PACE = 4;

/** A figure awake: its canvas, its legends and what it is worked with. */
export class FigurePanel {
  readonly root: HTMLElement;
  private readonly view: FigureView;
  private readonly stage: HTMLElement;
  private readonly tag = element(
    'div',
    { class: 'living-tag', hidden: '', 'aria-hidden': 'true' },
    element('span'),
  );
  private readonly stamp = element('p', { class: 'living-stamp' });
  private readonly told = element('p', { class: 'living-told', role: 'status' });
  private readonly legends = element('div', { class: 'living-legends' });
  private readonly watch: ResizeObserver;
  private choice: Choice;
  private slides: { input: HTMLInputElement; says: HTMLOutputElement; refresh(): void }[] = [];
  private playing = 0;
  private play: HTMLButtonElement | null = null;
  private looked = 0;

  /**
   * @param name of the figure, such as `Figure 3`
   * @param sleep puts its picture back
   * @throws Error where the browser cannot draw in three dimensions
   */
  constructor(
    private readonly carried: CarriedFigure,
    name: string,
    sleep: (why: string) => void,
  ) {
    const { figure } = carried;
    const [{ aspect }] = figure.scene.cameras;
    const canvas = element('canvas', {
      tabindex: 0,
      role: 'application',
      'aria-label': `${name}, in three dimensions. Arrow keys turn it, plus and minus bring it nearer and further away, Home brings the first view back, Enter reads the value in its middle.`,
    });
    this.choice = { ...figure.moments[figure.shown] };
    this.stamp.style.color = figure.ink;
    this.stage = element('div', { class: 'living-stage' }, canvas, this.stamp, this.tag);
    this.stage.style.aspectRatio = `${aspect}`;
    this.stage.style.background = `linear-gradient(${figure.top}, ${figure.foot})`;
    this.view = new FigureView(canvas, carried, () => {
      this.tag.hidden = true;
    });
    const home = button('First view', () => this.view.home());
    const away = button('Back to the picture', () => sleep(''));
    this.root = element(
      'div',
      { class: 'living-panel', role: 'group', 'aria-label': `${name} in three dimensions` },
      this.stage,
      this.legends,
      element('div', { class: 'living-tools' }, ...this.sliders(figure), home, away),
      this.told,
    );
    canvas.addEventListener('webglcontextlost', () =>
      sleep('The browser took the drawing away: turn it again to go on.'),
    );
    this.listen(canvas);
    this.watch = new ResizeObserver(() => this.view.resize(this.stage.clientWidth, this.stage.clientHeight));
    this.watch.observe(this.stage);
    this.show(this.choice);
    this.tell(figure.notes.length > 0 ? `Not shown here: ${figure.notes.join(', ')}.` : '');
  }

  focus(): void {
    this.view.canvas.focus({ preventScroll: true });
  }

  dispose(): void {
    this.stop();
    cancelAnimationFrame(this.looked);
    this.watch.disconnect();
    this.view.dispose();
    this.root.remove();
  }

  private sliders(figure: LivingFigure): HTMLElement[] {
    const out: HTMLElement[] = [];
    const { steps, places } = figure;
    if (steps.length > 1) {
      this.play = button('Play', () => (this.playing ? this.stop() : this.start()));
      out.push(this.play);
      out.push(
        this.slider(
          'Step',
          steps,
          () => this.choice.step,
          (step) => {
            this.stop();
            this.choose(atStep(figure, step, this.choice));
          },
        ),
      );
    }
    if (places.length > 1)
      out.push(
        this.slider(
          'Section',
          places,
          () => this.choice.place ?? 0,
          (place) => {
            this.stop();
            this.choose(atPlace(figure, place, this.choice));
          },
        ),
      );
    return out;
  }

  private slider(
    name: string,
    words: readonly string[],
    now: () => number,
    choose: (index: number) => void,
  ): HTMLElement {
    const input = element('input', { type: 'range', min: 0, max: words.length - 1, step: 1 });
    const says = element('output', { 'aria-hidden': 'true' });
    input.addEventListener('input', () => choose(Number(input.value)));
    const refresh = (): void => {
      input.value = `${now()}`;
      says.textContent = words[now()];
      input.setAttribute('aria-valuetext', words[now()]);
    };
    this.slides.push({ input, says, refresh });
    return element('label', {}, element('span', {}, name), input, says);
  }

  /** Shows another moment, and tells what had to change with it. */
  private choose(to: Choice): void {
    const { figure } = this.carried;
    const before = this.choice;
    this.show(to);
    const [step, place] = [to.step !== before.step, to.place !== before.place];
    if (step && place)
      this.tell(
        `This figure has its section elsewhere at one step only: now at ${figure.places[to.place!]}, ${figure.steps[to.step]}.`,
      );
    else this.tell('');
  }

  private show(to: Choice): void {
    this.choice = to;
    this.view.show(momentOfChoice(this.carried.figure, to));
    for (const { refresh } of this.slides) refresh();
    const { pictures, figure } = this.carried;
    const { steps, stated } = figure;
    this.stamp.textContent = [...(steps.length > 1 ? [steps[to.step]] : []), ...stated].join(' · ');
    this.legends.replaceChildren(...this.view.scales().map((s) => legendBar(s, pictures[s.picture])));
    this.tag.hidden = true;
  }

  private start(): void {
    const { figure } = this.carried;
    this.play!.textContent = 'Pause';
    this.playing = window.setInterval(
      () => this.choose(atStep(figure, (this.choice.step + 1) % figure.steps.length, this.choice)),
      1000 / PACE,
    );
  }

  private stop(): void {
    clearInterval(this.playing);
    this.playing = 0;
    if (this.play) this.play.textContent = 'Play';
  }

  private tell(what: string): void {
    this.told.textContent = what;
  }

  private listen(canvas: HTMLCanvasElement): void {
    const { view } = this;
    canvas.addEventListener('focus', () => view.holds(true));
    canvas.addEventListener('blur', () => view.holds(false));
    const keys: Record<string, () => void> = {
      ArrowLeft: () => view.turn(-TURN, 0),
      ArrowRight: () => view.turn(TURN, 0),
      ArrowUp: () => view.turn(0, TURN),
      ArrowDown: () => view.turn(0, -TURN),
      '+': () => view.nearer(NEARER),
      '=': () => view.nearer(NEARER),
      '-': () => view.nearer(1 / NEARER),
      Home: () => view.home(),
      Enter: () => this.read(0.5, 0.5, true),
    };
    canvas.addEventListener('keydown', (event) => {
      const act = keys[event.key];
      if (!act || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      act();
    });
    canvas.addEventListener('pointermove', (event) => {
      if (event.buttons > 0) {
        this.tag.hidden = true;
        return;
      }
      cancelAnimationFrame(this.looked);
      this.looked = requestAnimationFrame(() => this.readUnder(event, false));
    });
    canvas.addEventListener('pointerleave', () => {
      cancelAnimationFrame(this.looked);
      this.tag.hidden = true;
    });
    canvas.addEventListener('click', (event) => this.readUnder(event, true));
  }

  private readUnder(event: MouseEvent, aloud: boolean): void {
    const { left, top, width, height } = this.view.canvas.getBoundingClientRect();
    this.read((event.clientX - left) / width, (event.clientY - top) / height, aloud);
  }

  /** @param aloud whether it stays below the figure, where it is read out too */
  private read(x: number, y: number, aloud: boolean): void {
    const found = this.view.probe(x, y);
    this.tag.hidden = found === null;
    if (!found) {
      if (aloud) this.tell('Nothing is there.');
      return;
    }
    const { what, where } = sayProbed(found, this.carried.figure);
    this.tag.firstElementChild!.textContent = what;
    this.tag.style.left = `${100 * x}%`;
    this.tag.style.top = `${100 * y}%`;
    this.tag.classList.toggle('living-tag-left', x > 0.6);
    if (aloud) this.tell(`${what} (${where})`);
  }
}

function button(name: string, press: () => void): HTMLButtonElement {
  const made = element('button', { type: 'button' }, name);
  made.addEventListener('click', press);
  return made;
}
