import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { type Piece, type PieceKind, WORDS } from './pieces';

const KINDS: PieceKind[] = ['solid', 'oneWay', 'mover', 'zone', 'anchor', 'spawn'];

/** Everything on a course by its kind: to find a thing by its name, and to reach each by keyboard. */
@Component({
  selector: 'gm-piece-list',
  imports: [MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.kind) {
      <h2 class="caption">
        {{ group.word }} <span class="mono">{{ group.pieces.length }}</span>
      </h2>
      <ul>
        @for (piece of group.pieces; track piece.key) {
          <li>
            <button type="button" matButton="text" class="small" (click)="choose.emit(piece.key)">
              {{ piece.name }}
            </button>
            <span class="mono dim">{{ piece.at }}</span>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    h2 {
      padding-top: 8px;
    }
    ul {
      list-style: none;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      gap: 10px;
      font-size: 12px;
    }
    button {
      margin-left: -6px;
    }
  `,
})
export class PieceList {
  readonly pieces = input.required<readonly Piece[]>();
  readonly choose = output<string>();

  protected readonly groups = computed(() =>
    KINDS.map((kind) => ({
      kind,
      word: WORDS[kind],
      pieces: this.pieces()
        .filter((piece) => piece.kind === kind)
        .map(({ key, name, tag, points }) => {
          const [x, y] = [Math.min(...points.map((p) => p[0])), Math.min(...points.map((p) => p[1]))];
          return { key, name: name || tag || $localize`no name`, at: `${x}, ${y} m` };
        }),
    })).filter((group) => group.pieces.length > 0),
  );
}
