import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterRenderEffect,
  computed,
  inject,
  untracked,
  viewChildren,
} from '@angular/core';
import { Crew } from '../state/crew';
import { Derived } from '../state/derived';
import { OpenCrew } from '../state/open-crew';
import { Reels } from '../state/reels';
import { Session } from '../state/session';
import { answerTo } from '../work/answer';
import { planAsked } from '../work/plan-asked';
import type { ChartData } from './chart-data';
import { chartsOf } from './chart-data';

/** Exchanges of each circuit for the chart of what planning would save. */
const PLAN_STEPS = 300;

/** How many series are told apart by their tone; more begin again. */
const TONES = ['--chalk', '--done', '--alert', '--ink-soft'];

/** Charts of the house: each with a table of the same figures. Chart.js comes with them, and not before. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-charts',
  template: `
    @for (chart of charts(); track chart.id) {
      <section>
        <h3>{{ chart.title }}</h3>
        <div class="canvas"><canvas #canvas [id]="'chart-' + chart.id" aria-hidden="true"></canvas></div>
        <details>
          <summary i18n>As a table</summary>
          <table class="ledger" [attr.aria-label]="chart.title">
            <thead>
              <tr>
                <td></td>
                @for (series of chart.series; track series.name) {
                  <th scope="col" class="right">{{ series.name }}, {{ chart.unit }}</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (label of chart.labels; track $index; let at = $index) {
                <tr>
                  <th scope="row">{{ label }}</th>
                  @for (series of chart.series; track series.name) {
                    <td class="right num">{{ series.values[at] }}</td>
                  }
                </tr>
              }
            </tbody>
          </table>
        </details>
      </section>
    } @empty {
      <p i18n class="soft">Nothing to draw yet: log a pull, or plan a run.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(26rem, 100%), 1fr));
      gap: 1rem 2rem;
    }
    .canvas {
      position: relative;
      height: 260px;
    }
    summary {
      min-height: 44px;
      line-height: 44px;
    }
  `,
})
export class Charts {
  private readonly derived = inject(Derived);
  private readonly crew = inject(Crew);
  private readonly session = inject(Session);
  private readonly crewBook = inject(OpenCrew);
  private readonly reels = inject(Reels);
  private readonly canvases = viewChildren<ElementRef<HTMLCanvasElement>>('canvas');

  /** What the planner would have otherwise: it comes when it is found. */
  private readonly plan = answerTo(() => {
    const reader = untracked(this.derived.reader);
    return reader && { about: 'plan' as const, plan: planAsked(reader, this.crewBook, {}, PLAN_STEPS) };
  });

  protected readonly charts = computed((): readonly ChartData[] => {
    const reader = this.derived.reader();
    if (!reader) return [];
    const useful = reader.rules().number('reel.useful');
    const plan = this.plan.value();
    return chartsOf(reader, (id) => this.crew.nameOf(id), useful, this.reels.before(), plan);
  });

  constructor() {
    this.reels.want();
    let drawn: { destroy(): void }[] = [];
    let turn = 0;
    const clear = (): void => {
      for (const chart of drawn) chart.destroy();
      drawn = [];
    };
    inject(DestroyRef).onDestroy(() => {
      turn++;
      clear();
    });
    afterRenderEffect(() => {
      const [charts, canvases] = [this.charts(), this.canvases().map(({ nativeElement }) => nativeElement)];
      // Its colours are those of the theme.
      this.session.theme();
      const own = ++turn;
      void import('chart.js/auto').then(({ default: Chart }) => {
        if (own !== turn) return;
        clear();
        const style = getComputedStyle(document.documentElement);
        const tone = (name: string): string => style.getPropertyValue(name).trim();
        Chart.defaults.font.family = getComputedStyle(document.body).fontFamily;
        Chart.defaults.font.size = 14;
        drawn = charts.flatMap((data) => {
          const canvas = canvases.find(({ id }) => id === `chart-${data.id}`);
          if (!canvas) return [];
          const axis = {
            stacked: data.isStacked === true,
            ticks: { color: tone('--ink') },
            grid: { color: tone('--rule') },
            border: { color: tone('--ink') },
          };
          return [
            new Chart(canvas, {
              type: 'bar',
              data: {
                labels: [...data.labels],
                datasets: data.series.map(({ name, values }, at) => ({
                  label: name,
                  data: [...values],
                  backgroundColor: tone(TONES[at % TONES.length]!),
                  borderColor: tone('--ink'),
                  borderWidth: 1,
                })),
              },
              options: {
                animation: false,
                maintainAspectRatio: false,
                scales: {
                  x: axis,
                  y: { ...axis, title: { display: true, text: data.unit, color: tone('--ink') } },
                },
                plugins: {
                  legend: { display: data.series.length > 1, labels: { color: tone('--ink'), boxWidth: 14 } },
                },
              },
            }),
          ];
        });
      });
    });
  }
}
