import { carriedFigure } from './carried-figure.ts';
import { element } from './element.ts';
import { FigurePanel } from './figure-panel.ts';

/** Browsers draw few figures in three dimensions at once: the one woken first sleeps again. */
const MOST_AWAKE = 4;

interface Awake {
  sleep(why: string): void;
}

const awake: Awake[] = [];

/** Lets a reader turn a figure, where its page carries it. */
function offer(place: HTMLElement): void {
  const poster = place.querySelector('img');
  const data = document.getElementById(`living-${place.dataset.living}`);
  if (!poster || !data) return;
  const name = place.dataset.name || 'This figure';
  const told = element('p', { class: 'living-told', role: 'status' });
  const wake = element('button', { type: 'button', class: 'living-wake' }, 'Turn in 3D');
  wake.setAttribute('aria-describedby', `${place.id}-of`);
  const of = element('span', { id: `${place.id}-of`, hidden: '' }, name);
  const open = async (): Promise<void> => {
    wake.disabled = true;
    told.textContent = 'Unpacking the figure …';
    try {
      const carried = await carriedFigure(data.textContent ?? '');
      const panel = new FigurePanel(carried, name, (why) => own.sleep(why));
      const own: Awake = {
        sleep(why) {
          const at = awake.indexOf(own);
          if (at < 0) return;
          awake.splice(at, 1);
          panel.dispose();
          place.classList.remove('living-awake');
          wake.hidden = false;
          told.textContent = why;
          if (why === '') wake.focus({ preventScroll: true });
        },
      };
      told.textContent = '';
      place.classList.add('living-awake');
      place.append(panel.root);
      wake.hidden = true;
      panel.focus();
      awake.push(own);
      if (awake.length > MOST_AWAKE)
        awake[0].sleep('Its picture is back, as other figures are being turned: turn it again to go on.');
    } catch (error) {
      told.textContent = `It cannot be turned here (${(error as Error).message}): its picture stays. Try another browser, or let this one draw with the graphics card.`;
    } finally {
      wake.disabled = false;
    }
  };
  wake.addEventListener('click', () => void open());
  place.append(of, wake, told);
}

for (const place of document.querySelectorAll<HTMLElement>('[data-living]')) offer(place);
