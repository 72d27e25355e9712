<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use App\Table\TableColumn;
use App\Trial\FigureView;
use App\Trial\Trial;
use Dokimos\Core\Figure\Accuracy;
use Dokimos\Core\Figure\Bias;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Groups;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** For whom a trial is right and for whom it is wrong: its figures on validation rows, group by group. */
final readonly class Groupings
{
    public function __construct(private Ground $ground, private Judgments $judgments, private Questions $questions)
    {
    }

    public function of(Trial $trial, string $by, CutOff $cutoff): GroupsView
    {
        $model = $this->judgments->model($trial);
        $this->judgments->onItsRows($trial);
        $study = $trial->study();
        $columns = $this->columns($study);
        if ([] === $columns) {
            throw new Problem(409, 'This table has no column that divides its rows into groups: free text does not.');
        }
        $by = '' === $by ? $this->telling($trial, $columns) : $by;
        if (!\in_array($by, $columns, true)) {
            throw Problem::invalid(\sprintf('Rows cannot be grouped by "%s".', $by), 'by');
        }
        [$table, $outcome] = $this->ground->open($study, [$by]);
        $answers = $trial->answers();
        $groups = Groups::of($table->column($by));
        $views = [];
        foreach ([...array_map(null, $groups->names, $groups->rows), ['All', array_keys($outcome)]] as [$name, $rows]) {
            $views[] = self::group((string) $name, $rows ?? [], $model->task, $outcome, $answers, $cutoff);
        }
        $all = array_pop($views);
        $figure = Figures::ranking($model->task);
        /** @var array{value?: ?float, low?: ?float, high?: ?float} $own */
        $own = \is_array($trial->figures()[$figure->key] ?? null) ? $trial->figures()[$figure->key] : [];
        // One figure of a trial everywhere: the line of all rows says what its page and the Standings say.
        $all = new GroupView(
            $all->name,
            $all->rows,
            $all->unanswered,
            $all->events,
            $all->rate,
            new Interval($own['value'] ?? $all->measured->value, $own['low'] ?? null, $own['high'] ?? null),
            $all->caught,
            $all->right,
            $all->off,
        );
        [$within, $worse] = self::worse($views, $figure);

        return new GroupsView($by, $columns, FigureView::of($figure), $views, $all, $within, $worse);
    }

    /**
     * A group is held against the mean within groups: the figure of all rows together also ranks between groups, which no group can do.
     *
     * @param list<GroupView> $groups
     *
     * @return array{?float, list<string>}
     */
    private static function worse(array $groups, Figure $figure): array
    {
        $known = array_values(array_filter($groups, static fn (GroupView $g): bool => null !== $g->measured->value));
        if (\count($known) < 2) {
            return [null, []];
        }
        $mean = static fn (array $of): float => $figure->together(array_map(
            static fn (GroupView $g): array => [$g->rows, (float) $g->measured->value],
            array_values($of),
        ));
        $reach = (new Normal())->quantile(1 - 0.025 / \count($known)) / Normal::Z95;
        $worse = [];
        foreach ($known as $i => $g) {
            $others = $known;
            unset($others[$i]);
            $rest = $mean($others);
            $wide = $g->measured->around((float) $g->measured->value, $reach);
            if ($figure->more ? ($wide->high ?? 1.0) < $rest : null !== $wide->low && $wide->low > $rest) {
                $worse[] = $g->name;
            }
        }

        return [$mean($known), $worse];
    }

    /** @return list<string> */
    private function columns(Study $study): array
    {
        $columns = array_filter(
            $this->ground->table($study)->columns(),
            fn (TableColumn $c): bool => $c->name() !== $this->questions->of($study)->target() && Kind::Text !== $c->kind() && Kind::Identifier !== $c->kind() && ($c->profile()['distinct'] ?? 2) > 1 && !($c->kind()->isCoded() && ($c->profile()['distinct'] ?? 0) > 1000),
        );

        return array_values(array_map(static fn (TableColumn $c): string => $c->name(), $columns));
    }

    /**
     * The column to begin with: of those with few values the one that the model leans on most.
     *
     * @param non-empty-list<string> $columns
     */
    private function telling(Trial $trial, array $columns): string
    {
        $importance = $trial->figures()['importance'] ?? [];
        $table = $this->ground->table($trial->study());
        $few = [];
        foreach ($table->columns() as $column) {
            if (\in_array($column->name(), $columns, true) && $column->kind()->isCoded() && ($column->profile()['distinct'] ?? 99) <= 12) {
                $few[] = $column->name();
            }
        }
        foreach (\is_array($importance) ? $importance : [] as $line) {
            if (\is_array($line) && \in_array($line['column'] ?? null, $few, true)) {
                return $line['column'];
            }
        }

        return $few[0] ?? $columns[0];
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $outcome
     */
    private static function group(string $name, array $rows, string $task, array $outcome, Answers $answers, CutOff $cutoff): GroupView
    {
        $rows = array_values($rows);
        $sample = Sample::known(array_map(static fn (int $row): float => $outcome[$row], $rows), $answers->take($rows), null, false);
        $none = new Interval(null);
        $left = \count($rows) - ($sample?->rows() ?? 0);
        if (null === $sample) {
            return new GroupView($name, 0, $left, 0, $none, $none, $none, $none, null);
        }
        $measured = Figures::ranking($task)->interval($sample) ?? $none;
        if (Task::NUMBER === $task) {
            return new GroupView(
                $name,
                $sample->rows(),
                $left,
                0,
                Interval::mean($sample->outcome),
                $measured,
                $none,
                $none,
                (new Bias())->interval($sample),
            );
        }
        if (Task::MORE === $task) {
            return new GroupView($name, $sample->rows(), $left, 0, $none, $measured, Accuracy::ofClasses()->interval($sample), $none, null);
        }
        $events = (int) array_sum($sample->outcome);
        $at = $sample->scores()->at($cutoff->value)->intervals();

        // Of one or two events no variance can be told.
        return new GroupView(
            $name,
            $sample->rows(),
            $left,
            $events,
            Interval::wilson($events, $sample->rows()),
            min($events, $sample->rows() - $events) < 3 ? $none : $measured,
            $at['recall'],
            $at['precision'],
            null,
        );
    }
}
