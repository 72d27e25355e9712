<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Finding\Findings;
use App\Preparation\Variants;
use App\Question\Question;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Section;
use Dokimos\Core\Table\ColumnUse;

/** The sections of a dossier on what a study is made of. */
final readonly class OfData
{
    public function __construct(
        private Findings $findings,
        private Variants $variants,
    ) {
    }

    public function question(Study $study, Question $question, DataTable $table): Section
    {
        $plan = $question->plan();

        return new Section('question', 'The question', '' === $study->question() ? $study->name() : $study->question(), [
            Block::text(\sprintf(
                'Predicted is *%s*%s, from %s.',
                $question->target() ?? 'nothing yet',
                null === $question->event() ? '' : \sprintf(' being "%s"', $question->event()),
                $table->name(),
            ), \sprintf('/study/%d/trials', $study->id())),
            Block::text($this->split($question, $table).'.'),
            Block::text(null === $plan ? 'No split plan was made.' : \sprintf(
                'Each trial was fitted %d times (%d folds, %d %s), by seed %d%s.',
                $plan->folds * $plan->repeats,
                $plan->folds,
                $plan->repeats,
                1 === $plan->repeats ? 'round' : 'rounds',
                $plan->seed,
                null === $plan->column ? '' : ', divided by '.$plan->column,
            )),
        ]);
    }

    public function split(Question $question, DataTable $table): string
    {
        $sealed = $question->sealedCount();

        return \sprintf(
            'Of %s records %s were learned from and judged in folds, %s were sealed%s',
            number_format($table->rows()),
            number_format($table->rows() - $sealed),
            number_format($sealed),
            0 === $sealed ? '' : ($question->isSealOpened() ? ' until the end' : ' and still are'),
        );
    }

    public function table(DataTable $table): Section
    {
        $found = $this->findings->of($table);
        $uses = [];
        foreach ($table->columns() as $column) {
            $uses[$column->use()->value] = ($uses[$column->use()->value] ?? 0) + 1;
        }
        $blocks = [
            Block::text(\sprintf(
                '%s has *%s records and %d columns*: %s. It was read from %s.',
                $table->name(),
                number_format($table->rows()),
                \count($table->columns()),
                implode(', ', array_map(static fn (string $use, int $n): string => $n.' '.$use, array_keys($uses), $uses)),
                $table->fileName(),
            ), \sprintf('/study/%d/table/%d', $table->study()->id(), $table->id())),
            Block::table('Columns', ['Column', 'Kind', 'Use', 'Missing'], array_map(static fn (TableColumn $c): array => [
                $c->name(),
                $c->kind()->value,
                $c->use()->value.(ColumnUse::Input === $c->use() && !$c->isKnown() ? ', known afterwards' : ''),
                Said::share(($c->profile()['missing'] ?? 0) / max(1, $table->rows())),
            ], $table->columns())),
        ];
        array_push($blocks, ...Pictures::missing($table));
        $blocks[] = [] === $found->findings ? Block::text('Nothing was found that deserves a decision.') : Block::table(
            \sprintf('What was found, and what became of it (%d)', \count($found->findings)),
            ['Finding', 'Said of it'],
            array_map(
                static fn ($f): array => [$f->sentence, null === $f->dismissed ? 'open' : 'settled: '.$f->dismissed->reason],
                \array_slice($found->findings, 0, 40),
            ),
        );
        $open = \count(array_filter($found->findings, static fn ($f): bool => null === $f->dismissed));

        return new Section(
            'table',
            'The table',
            \sprintf('%s records, %d findings, %d of them open', number_format($table->rows()), \count($found->findings), $open),
            $blocks,
        );
    }

    public function preparation(Study $study): Section
    {
        $blocks = [];
        $variants = $this->variants->of($study);
        foreach ($variants as $variant) {
            $view = $this->variants->view($variant, $variant->steps());
            $blocks[] = Block::text(\sprintf(
                '*Variant %s, %s*: %s of %s records and %d of %d columns are left; cells missing before %s, after %s.',
                $variant->letter(),
                $variant->name(),
                number_format($view->rowsAfter),
                number_format($view->rowsBefore),
                $view->columnsAfter,
                $view->columnsBefore,
                number_format($view->missingBefore),
                number_format($view->missingAfter),
            ), \sprintf('/study/%d/preparation', $study->id()));
            if ([] !== $view->steps) {
                $blocks[] = Block::table('Steps, each with its toll', [
                    'Step',
                    'Records',
                    'Columns',
                    'Missing cells',
                ], array_map(static fn ($s): array => [
                    ($s->off ? '(off) ' : '').($s->sentence ?? $s->problem ?? $s->step).('' === $s->note ? '' : ' '.$s->note),
                    null === $s->toll ? '' : Said::change($s->toll->rowsAfter - $s->toll->rowsBefore),
                    null === $s->toll ? '' : Said::change($s->toll->columnsAfter - $s->toll->columnsBefore),
                    null === $s->toll ? '' : Said::change($s->toll->missingAfter - $s->toll->missingBefore),
                ], $view->steps));
            }
        }

        return new Section(
            'preparation',
            'Preparation',
            1 === \count($variants) ? 'One variant' : \count($variants).' variants side by side',
            $blocks,
        );
    }
}
