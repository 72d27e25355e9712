<?php

declare(strict_types=1);

namespace App\Question;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;

/** Settles what a study predicts, and draws the sealed rows on the source table, before any step: the same rows for every variant. */
final readonly class Targets
{
    /** Records of a class, or of a number, at least. */
    private const LEAST = 10;
    private const MOST_CLASSES = 50;
    /** Records that are divided while a page waits: what answers it has 512 MB. */
    private const MOST_RECORDS = 2_000_000;

    public function __construct(private EntityManagerInterface $entities, private SealedCells $cells, private Veils $veils, private Logbook $logbook, private Questions $questions)
    {
    }

    public function choose(Study $study, User $user, TargetRequest $request): void
    {
        $table = null === $request->tableId ? $this->questions->of($study)->table() : $this->entities->find(DataTable::class, $request->tableId);
        if (null === $table || $table->study() !== $study || !$table->isReady()) {
            throw Problem::notFound('table');
        }
        if ($table->rows() > self::MOST_RECORDS) {
            throw Problem::invalid(
                \sprintf(
                    'Up to %s records are divided into those to learn from and those that stay sealed; %s has %s. Make a'
                    .' smaller table of it first: Combine… above the Register, Draw records.',
                    number_format(self::MOST_RECORDS),
                    $table->name(),
                    number_format($table->rows()),
                ),
                'tableId',
            );
        }
        $column = $table->column($request->column) ?? throw Problem::invalid(\sprintf('There is no column %s in %s.', $request->column, $table->name()), 'column');
        [$outcome, $classes, $event] = match ($request->task) {
            Task::NUMBER => $this->number($column),
            Task::MORE => $this->classes($column),
            default => $this->event($column, $request->event ?? ''),
        };
        $plan = $this->plan($table, $column, $request);
        $sealed = $plan->sealed($outcome, $this->labels($table, $plan));
        $this->refuseEmptyParts($plan, $outcome, $sealed, $this->labels($table, $plan), null !== $event);
        $this->questions->of($study)->useTable($table);
        foreach ($table->columns() as $other) {
            if (ColumnUse::Target === $other->use()) {
                $other->changeUse(ColumnUse::Aside);
            }
        }
        $column->changeUse(ColumnUse::Target);
        $this->questions->of($study)->chooseTarget($column->name(), $request->task, $event, $classes, $plan, $sealed);
        $this->veils->draw($study);
        $this->logbook->write($study, $user, 'trials', \sprintf('Target: %s, %s. %s rows sealed, %s%s; seed %d.', $column->name(), self::said($this->questions->seal($study)->openRows($outcome), $outcome, $classes, $event), number_format(\count($sealed)), 1 === $plan->folds ? 'one validation part' : \sprintf('%d folds × %d', $plan->folds, $plan->repeats), SplitPlan::CHANCE === $plan->way ? '' : \sprintf(', by %s (%s)', $plan->way, $plan->column), $plan->seed));
        $this->entities->flush();
    }

    /**
     * What the open rows hold; of the sealed ones nothing is said.
     *
     * @param list<int>     $open
     * @param list<float>   $outcome
     * @param ?list<string> $classes
     */
    private static function said(array $open, array $outcome, ?array $classes, ?string $event): string
    {
        $known = \count($open);
        if (null !== $event) {
            $hits = (int) array_sum(array_map(static fn (int $row): float => $outcome[$row], $open));

            return \sprintf('event "%s" (%s of %s open records, %.1f%%)', $event, number_format($hits), number_format($known), 100 * $hits / max(1, $known));
        }

        return null === $classes ? \sprintf('a number known in %s open records', number_format($known)) : \sprintf('%d classes, known in %s open records', \count($classes), number_format($known));
    }

    /** @return ?list<int|float|string|null> what divides the rows, when it is not chance */
    private function labels(DataTable $table, SplitPlan $plan): ?array
    {
        $by = null === $plan->column ? null : $table->column($plan->column);

        return null === $by ? null : $this->cells->labels($by);
    }

    /** @return array{list<float>, null, string} */
    private function event(TableColumn $column, string $name): array
    {
        if (!$column->kind()->isCoded() && Kind::Number !== $column->kind()) {
            throw Problem::invalid(\sprintf('%s holds %s. A target with two classes is a yes/no, a category, or a number with one value that counts as the event.', $column->name(), $column->kind()->value), 'column');
        }
        if ('' === $name) {
            throw Problem::invalid('Choose the class that counts as the event.', 'event');
        }
        $event = $this->cells->outcome($column, null, $name);
        $known = array_filter($event, static fn (float $e) => !is_nan($e));
        $hits = (int) array_sum($known);
        if ($hits < self::LEAST || \count($known) - $hits < self::LEAST) {
            throw Problem::invalid(\sprintf('%s of %s records with a known %s are "%s". At least ten of either kind are needed.', number_format($hits), number_format(\count($known)), $column->name(), $name), 'event');
        }

        return [$event, null, $name];
    }

    /** @return array{list<float>, null, null} */
    private function number(TableColumn $column): array
    {
        if (Kind::Number !== $column->kind()) {
            throw Problem::invalid(\sprintf('%s holds %s; a number to predict has to be a column of numbers.', $column->name(), $column->kind()->value), 'column');
        }
        $outcome = $this->cells->outcome($column, null, null);
        $known = array_values(array_filter($outcome, static fn (float $y) => !is_nan($y)));
        if (\count($known) < 2 * self::LEAST || min($known) === max($known)) {
            throw Problem::invalid(\sprintf('%s is known in %s records%s: there is nothing to learn.', $column->name(), number_format(\count($known)), [] !== $known && min($known) === max($known) ? ' and the same in all' : ''), 'column');
        }

        return [$outcome, null, null];
    }

    /** @return array{list<float>, list<string>, null} */
    private function classes(TableColumn $column): array
    {
        if (!$column->kind()->isCoded()) {
            throw Problem::invalid(\sprintf('%s holds %s; classes to tell apart have to be a category.', $column->name(), $column->kind()->value), 'column');
        }
        $counts = array_count_values(array_filter($this->cells->labels($column), is_string(...)));
        $often = array_filter($counts, static fn (int $n) => $n >= self::LEAST);
        if (\count($often) < 3 || \count($often) > self::MOST_CLASSES) {
            throw Problem::invalid(\sprintf('%s has %d values with at least ten records. Several classes are 3 to %d; of two, one is the event.', $column->name(), \count($often), self::MOST_CLASSES), 'column');
        }
        $classes = array_map(strval(...), array_keys($often));
        sort($classes, \SORT_STRING);

        return [$this->cells->outcome($column, $classes, null), $classes, null];
    }

    private function plan(DataTable $table, TableColumn $target, TargetRequest $request): SplitPlan
    {
        $way = $request->way ?? SplitPlan::CHANCE;
        $by = null;
        if (SplitPlan::CHANCE !== $way) {
            $by = $table->column($request->by ?? '') ?? throw Problem::invalid('Choose the column that divides the rows.', 'by');
            if ($by === $target) {
                throw Problem::invalid('The target cannot divide the rows.', 'by');
            }
            if (SplitPlan::TIME === $way && Kind::Date !== $by->kind() && Kind::Number !== $by->kind()) {
                throw Problem::invalid(\sprintf('%s holds %s; time is a date or a number that grows with it.', $by->name(), $by->kind()->value), 'by');
            }
        }
        $standard = SplitPlan::standard($table->rows());
        $once = SplitPlan::TIME === $way || SplitPlan::MARKER === $way;
        try {
            return new SplitPlan($request->sealedShare ?? $standard->sealedShare, $request->folds ?? (SplitPlan::MARKER === $way ? 1 : $standard->folds), $request->repeats ?? ($once ? 1 : $standard->repeats), $request->seed ?? $standard->seed, $way, $by?->name(), $request->validation, $request->sealedValue);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage(), 'way');
        }
    }

    /**
     * @param list<float>                  $outcome
     * @param list<int>                    $sealed
     * @param ?list<int|float|string|null> $labels
     */
    private function refuseEmptyParts(SplitPlan $plan, array $outcome, array $sealed, ?array $labels, bool $isEvent): void
    {
        $open = array_keys(array_diff_key(array_filter($outcome, static fn (float $y) => !is_nan($y)), array_flip($sealed)));
        $parts = array_merge(...array_map(static fn (int $repeat): array => $plan->parts($outcome, $open, $repeat, $labels), range(0, $plan->repeats - 1)));
        foreach ($parts as $part) {
            $training = $plan->training($outcome, $open, $part, $labels);
            if ([] === $part || [] === $training) {
                throw Problem::invalid(\sprintf('Divided like this, %s would have no rows. %s has too few different values, or they are bunched.', [] === $part ? 'a validation part' : 'a part to learn from', $plan->column ?? 'The target'), 'by');
            }
            if ($isEvent) {
                $this->refuseOneOutcome($outcome, $part, 'a validation part', $plan);
                $this->refuseOneOutcome($outcome, $training, 'a part to learn from', $plan);
            }
        }
        if ($isEvent && [] !== $sealed) {
            $this->refuseOneOutcome($outcome, $sealed, 'the sealed part', $plan);
        }
    }

    /**
     * Nothing is ranked where all rows came out alike.
     *
     * @param list<float> $outcome
     * @param list<int>   $rows
     */
    private function refuseOneOutcome(array $outcome, array $rows, string $what, SplitPlan $plan): void
    {
        $events = array_sum(array_map(static fn (int $row): float => $outcome[$row], $rows));
        if (0.0 === $events || (float) \count($rows) === $events) {
            throw Problem::invalid(\sprintf('Divided like this, %s of %s rows would hold %s, so that nothing could be ranked there. %s', $what, number_format(\count($rows)), 0.0 === $events ? 'no event' : 'events only', SplitPlan::CHANCE === $plan->way ? 'Fewer folds, or a smaller sealed share, leave more events to each.' : \sprintf('Fewer folds help, or another column than %s, or a division by chance.', $plan->column)), 'by');
        }
    }
}
