<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Judgment\Section\LeaningSection;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Study\Study;
use App\Table\TableColumn;
use App\Trial\Distances;
use App\Trial\FigureView;
use App\Trial\Trial;
use App\Trial\Trials;
use App\Trial\TrialView;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\Reach;

/** Sets two to four trials beside each other on the rows that none of them had seen. Definition: docs/methods/side-by-side.md. */
final readonly class SideBySide
{
    private const STEPS = 50;
    /** Seconds that may be spent on comparing row by row what is not known yet. */
    private const PATIENCE = 4.0;

    public function __construct(
        private Ground $ground,
        private OpenCells $reader,
        private Judgments $judgments,
        private Distances $distances,
        private Trials $trials,
    ) {
    }

    /**
     * @param list<Trial> $trials the first is what the others are held against
     * @param ?float      $at     calls of an event, or the error of a number, at which records part; null = what is usual
     *
     * @throws Problem for fewer than two or more than four, for trials of other targets, and for rows that cannot be looked at one by one
     */
    public function of(Study $study, array $trials, ?float $at): SideBySideView
    {
        [$task, $outcome, $rows, $reaches] = $this->reaches($study, $trials);
        $at = $this->at($task, $trials[0], $reaches[0], $at);
        $pairs = Comparison::pairs(max(\count($trials), $this->trials->comparable($study)));
        $xs = self::steps($task, $reaches);
        $others = \array_slice($reaches, 1);

        return new SideBySideView(
            $task,
            $trials[0]->question()->event(),
            \count($rows),
            array_map(TrialView::of(...), $trials),
            $at,
            Judgments::cutoff($this->judgments->model($trials[0])),
            [...$this->figures($study, $task, $trials, $pairs), ...self::calls($task, $reaches, $at, $pairs)],
            $xs,
            $reaches[0]->of,
            array_map(
                static fn (Reach $r): array => array_map(static fn (int $n): float => $n / max(1, $r->of), $r->reached($xs)),
                $reaches,
            ),
            array_map(static fn (Reach $r): array => $r->less($reaches[0], $xs), $others),
            SettingBesideView::all($trials),
            $this->leans($trials),
            PartView::all($task, $outcome, $reaches, $at),
        );
    }

    /**
     * The records of one part: which of the trials call them, or are right.
     *
     * @param list<Trial> $trials
     * @param string      $called one 1 or 0 per trial; '' = all records that they part on
     */
    public function records(Study $study, array $trials, ?float $at, string $called, int $offset, int $limit): RecordsBesideView
    {
        if ('' !== $called && (1 !== preg_match('/^[01]+$/', $called) || \strlen($called) !== \count($trials))) {
            throw Problem::invalid('A part is named by one 1 or 0 for each trial.', 'called');
        }
        [$task, $outcome, $rows, $reaches] = $this->reaches($study, $trials);
        $at = $this->at($task, $trials[0], $reaches[0], $at);
        $meant = [];
        foreach (PartView::patterns($task, $reaches, $at) as $i => $pattern) {
            if ('' === $called ? \strlen(count_chars($pattern, 3)) > 1 : $pattern === $called) {
                $meant[] = $i;
            }
        }
        $page = \array_slice($meant, max(0, $offset), max(1, min(200, $limit)));
        $table = $this->ground->table($study);
        [, , $numbers] = $this->ground->open($study, []);
        $cells = [] === $page ? [] : $this->reader->rows($table, array_map(static fn (int $i): int => $numbers[$rows[$i]], $page));
        $classes = $trials[0]->question()->classes() ?? [];
        $answers = array_map(static fn (Trial $t): Answers => $t->answers(), $trials);
        $records = [];
        foreach ($page as $i) {
            $row = $rows[$i];
            $records[] = new RecordBeside(
                $numbers[$row] + 1,
                match ($task) {
                    Task::TWO => $outcome[$i] > 0.5 ? 'yes' : 'no',
                    Task::NUMBER => \sprintf('%.6G', $outcome[$i]),
                    default => $classes[(int) $outcome[$i]] ?? '',
                },
                array_map(static fn (Answers $a): string => match ($task) {
                    Task::TWO => \sprintf('%.1f%%', 100 * $a->first($row)),
                    Task::NUMBER => \sprintf('%.6G', $a->first($row)),
                    default => $classes[$a->likeliest($row)] ?? '',
                }, $answers),
                $cells[$numbers[$row]],
            );
        }

        return new RecordsBesideView(
            \count($meant),
            array_map(static fn (TableColumn $c): string => $c->name(), $table->columns()),
            $records,
        );
    }

    /**
     * @param list<Trial> $trials
     *
     * @return array{string, non-empty-list<float>, list<int>, non-empty-list<Reach>} task, outcomes and open rows that all answer for, and how far each trial gets on them
     */
    private function reaches(Study $study, array $trials): array
    {
        if (\count($trials) < 2 || \count($trials) > 4 || \count(array_unique(array_map(
            static fn (Trial $t): int => $t->id(),
            $trials,
        ))) !== \count($trials)) {
            throw Problem::invalid('Two to four different trials stand side by side.', 'trials');
        }
        $task = null;
        foreach ($trials as $trial) {
            if ($trial->study() !== $study) {
                throw Problem::invalid('Only trials of the same study stand side by side.', 'trials');
            }
            $own = $this->judgments->model($trial)->task;
            if ($own !== ($task ??= $own)) {
                throw Problem::invalid(
                    \sprintf('Trial %d predicts something else than trial %d.', $trial->number(), $trials[0]->number()),
                    'trials',
                );
            }
            $this->judgments->onItsRows($trial);
        }
        [, $all] = $this->ground->open($study, []);
        $answers = array_map(static fn (Trial $t): Answers => $t->answers(), $trials);
        $rows = $outcome = [];
        foreach ($all as $i => $y) {
            foreach ($answers as $a) {
                if (!$a->isKnown($i)) {
                    continue 2;
                }
            }
            $rows[] = $i;
            $outcome[] = $y;
        }
        if ([] === $outcome) {
            throw new Problem(409, 'There is no row that all of these trials can answer for.');
        }
        \assert([] !== $answers);

        return [
            $task,
            $outcome,
            $rows,
            array_map(static fn (Answers $a): Reach => Reach::of($task, new Sample($outcome, $a->take($rows))), $answers),
        ];
    }

    /** Where records part: as many calls as the first makes at the cut-off it suggests; the error that half of its answers keep to. */
    private function at(string $task, Trial $first, Reach $reach, ?float $asked): ?float
    {
        if (Task::MORE === $task) {
            return null;
        }
        if (null !== $asked && is_finite($asked)) {
            return Task::TWO === $task ? max(1.0, min(round($asked), (float) \count($reach->places))) : max(0.0, $asked);
        }
        if (Task::NUMBER === $task) {
            $errors = $reach->places;
            sort($errors);

            return $errors[intdiv(\count($errors), 2)];
        }
        $cutoff = CutOff::at((float) Judgments::cutoff($this->judgments->model($first)));
        $calls = \count(array_filter($first->answers()->values, static fn (float $c): bool => !is_nan($c) && $cutoff->calls($c)));

        return (float) max(1, min($calls, \count($reach->places)));
    }

    /**
     * @param non-empty-list<Reach> $reaches
     *
     * @return list<float>
     */
    private static function steps(string $task, array $reaches): array
    {
        $rows = \count($reaches[0]->places);
        $most = (float) $rows;
        if (Task::NUMBER === $task) {
            $errors = array_merge(...array_map(static fn (Reach $r): array => $r->places, $reaches));
            sort($errors);
            // The few largest would leave the rest in a corner.
            $most = $errors[(int) floor(0.98 * (\count($errors) - 1))];
        }

        return array_map(
            static fn (int $k): float => Task::NUMBER === $task ? $most * $k / self::STEPS : round($most * $k / self::STEPS),
            range(0, self::STEPS),
        );
    }

    /**
     * @param list<Trial> $trials
     *
     * @return list<FigureBesideView>
     */
    private function figures(Study $study, string $task, array $trials, int $pairs): array
    {
        $until = microtime(true) + self::PATIENCE;
        $out = [];
        foreach (Figures::of($task) as $figure) {
            if (!$figure->ranks) {
                continue;
            }
            $values = [];
            foreach ($trials as $k => $trial) {
                $value = $trial->lineBy($figure)->value;
                $apart = 0 === $k || null === $value ? null : $this->distances->between(
                    $study,
                    $trial,
                    $trials[0],
                    $pairs,
                    $until,
                    $figure,
                );
                $values[] = new DifferenceView($value, $apart?->difference, $apart?->low, $apart?->high, $apart?->noise);
            }
            if ([] !== array_filter($values, static fn (DifferenceView $v): bool => null !== $v->value)) {
                $out[] = new FigureBesideView(FigureView::of($figure), $values);
            }
        }

        return $out;
    }

    /**
     * What is caught and right at the same number of calls, or kept to the same error.
     *
     * @param non-empty-list<Reach> $reaches
     *
     * @return list<FigureBesideView>
     */
    private static function calls(string $task, array $reaches, ?float $at, int $pairs): array
    {
        if (null === $at) {
            return [];
        }
        $first = $reaches[0];
        $lines = Task::TWO === $task
            ? [['caught', 'Caught, of 100', 100.0], ['right', 'Right, of 100 called', 100.0 * $first->of / max(1.0, $at)]]
            : [['within', \sprintf('Within %.4G, of 100', $at), 100.0]];
        $out = [];
        foreach ($lines as [$key, $name, $factor]) {
            $values = [];
            foreach ($reaches as $k => $reach) {
                $value = $factor * $reach->reached([$at])[0] / max(1, $reach->of);
                $less = 0 === $k ? null : $reach->less($first, [$at], $pairs)[0];
                $values[] = new DifferenceView(
                    $value,
                    null === $less ? null : $factor * (float) $less->value,
                    null === $less ? null : $factor * (float) $less->low,
                    null === $less ? null : $factor * (float) $less->high,
                    null === $less ? null : $less->low <= 0.0 && $less->high >= 0.0,
                );
            }
            $out[] = new FigureBesideView(new FigureView($key, $name, true, true, false, 0.0, 100.0), $values);
        }

        return $out;
    }

    /**
     * @param list<Trial> $trials
     *
     * @return list<LeanBesideView>
     */
    private function leans(array $trials): array
    {
        $by = $most = [];
        foreach ($trials as $k => $trial) {
            foreach (LeaningSection::of($trial, $this->judgments->model($trial))->columns ?? [] as $lost) {
                $by[$lost->column] ??= array_fill(0, \count($trials), null);
                $by[$lost->column][$k] = $lost;
                $most[$lost->column] = max($most[$lost->column] ?? -\INF, $lost->value ?? -\INF);
            }
        }
        arsort($most);

        return array_map(
            static fn (string $column): LeanBesideView => new LeanBesideView($column, array_values($by[$column])),
            array_map(strval(...), array_keys($most)),
        );
    }
}
