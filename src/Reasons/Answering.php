<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Judgment\Section\LeaningSection;
use App\Question\Ground;
use Dokimos\Core\Decide\Players;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Learn\ShowsNeighbors;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** What a model says of one record: the answer, how sure, how it adds up, and what came of records alike. */
final readonly class Answering
{
    private const LISTED = 200;
    private const ALIKE = 50;
    /** Shares of records below which a value is rare. */
    private const RARE = 0.02;

    public function __construct(private Ground $ground)
    {
    }

    public function answer(Subject $subject): Answers
    {
        return $subject->reasoning->model->answers($subject->record);
    }

    /** The class that is explained: the likeliest. */
    public static function classOf(Reasoning $reasoning, Answers $answers): ?int
    {
        return Task::MORE === $reasoning->model->task && $answers->isKnown(0) ? $answers->likeliest(0) : null;
    }

    public function account(Subject $subject): ?AccountView
    {
        $reasoning = $subject->reasoning;
        $answers = $this->answer($subject);
        $class = self::classOf($subject->reasoning, $answers);
        $told = $reasoning->account($subject->record, $class);
        if (null === $told) {
            return null;
        }
        $lost = [];
        foreach (LeaningSection::of($subject->trial, $reasoning->model)->columns ?? [] as $line) {
            $lost[$line->column] = $line->value;
        }
        $lines = [];
        foreach ($told->players as $j => $names) {
            $unusual = array_filter(array_map(
                static fn (string $n): ?string => self::unusual($subject->record->column($n), $reasoning->basis->seen->column($n)),
                $names,
            ));
            $lines[] = new AccountLine(
                Players::named($names),
                self::value($subject->record, $names),
                $told->values[$j],
                $told->errors[$j],
                $told->own[$j] ?? null,
                1 === \count($names) ? $lost[$names[0]] ?? null : null,
                [] === $unusual ? null : implode(', ', array_unique($unusual)),
            );
        }
        usort(
            $lines,
            static fn (AccountLine $a, AccountLine $b): int => abs($b->effect) <=> abs($a->effect) ?: strcmp($a->column, $b->column),
        );
        $average = Task::MORE === $reasoning->model->task ? $told->base : $reasoning->model->baseRate;

        return new AccountView(
            $told->base,
            abs($average - $told->base) > 0.05 * abs($average) ? $average : null,
            $told->answer,
            null === $class ? null : $reasoning->model->classes()[$class],
            [] === $told->errors ? 0.0 : max($told->errors),
            $told->orders,
            $lines,
            [] === $told->own ? null : $told->scale->value,
            [] === $told->own ? null : $told->ownBase,
        );
    }

    /** @param non-empty-list<string> $names */
    private static function value(Table $record, array $names): ?string
    {
        $values = array_map(static fn (string $n): ?string => $record->column($n)->text(0), $names);

        return 1 === \count($names) ? $values[0] : implode(' and ', array_map(static fn (?string $v): string => $v ?? 'missing', $values));
    }

    /** Why a value is rare among records seen, in words. */
    private static function unusual(Column $own, Column $seen): ?string
    {
        $rows = $seen->count();
        if ($rows < 100) {
            return null;
        }
        if ($own->isMissing(0)) {
            return $seen->missing() < self::RARE * $rows ? 'hardly ever missing' : null;
        }
        if ($seen instanceof NumberColumn && $own instanceof NumberColumn || $seen instanceof DateColumn && $own instanceof DateColumn) {
            $values = $seen instanceof NumberColumn ? $seen->values : array_filter(
                $seen->seconds,
                static fn (int $s): bool => DateColumn::MISSING !== $s,
            );
            $value = $own instanceof NumberColumn ? $own->values[0] : $own->seconds[0];
            $below = \count(array_filter($values, static fn (float|int $v): bool => $v < $value));
            $above = \count(array_filter($values, static fn (float|int $v): bool => $v > $value));

            return match (true) {
                $below < self::RARE * $rows / 2 && $above > $rows / 2 => 'among the lowest',
                $above < self::RARE * $rows / 2 && $below > $rows / 2 => 'among the highest',
                default => null,
            };
        }
        if (!$seen instanceof CodedColumn) {
            return null;
        }
        $text = $own->text(0);
        $code = array_search($text, $seen->levels, true);
        $count = false === $code ? 0 : $seen->counts()[$code] ?? 0;

        return match (true) {
            0 === $count => 'not among the records looked at',
            $count < self::RARE * $rows => 'rare',
            default => null,
        };
    }

    public function sure(Subject $subject, Answers $answers): ?SureView
    {
        if (!$answers->isKnown(0)) {
            return null;
        }
        $sure = $subject->reasoning->basis->sure;
        $model = $subject->reasoning->model;
        if (Task::MORE === $model->task) {
            return new SureView(null, null, null, null, $sure->ofClasses($answers->of(0)));
        }
        if (Task::NUMBER === $model->task) {
            $of = static function (int $level) use ($sure, $answers): ?Interval {
                $held = $sure->ofNumber($answers->first(0), $level);

                return null === $held ? null : new Interval($answers->first(0), ...$held);
            };

            return new SureView(null, null, $of(80), $of(95), null);
        }
        $told = $sure->ofChance($answers->first(0));

        return null === $told ? null : new SureView($told['interval'], $told['records'], null, null, null);
    }

    public function likeness(Subject $subject): float
    {
        return $subject->reasoning->basis->likeness->of($subject->record, 0, $subject->itself);
    }

    public function neighbors(Subject $subject, Answers $answers): NeighborsView
    {
        $basis = $subject->reasoning->basis;
        $own = $this->own($subject);
        if (null !== $own) {
            return $own;
        }
        $nearest = $basis->likeness->nearest($subject->record, 0, self::ALIKE, $subject->itself);
        $came = array_map(static fn (int $i): float => $basis->came[$i], $nearest);
        $task = $subject->reasoning->model->task;
        $class = $answers->isKnown(0) && Task::MORE === $task ? $answers->likeliest(0) : 1;

        return new NeighborsView(
            \count($nearest),
            Task::NUMBER === $task ? null : \count(array_filter($came, static fn (float $y): bool => (int) $y === $class)),
            Task::NUMBER === $task && [] !== $came ? array_sum($came) / \count($came) : null,
            array_map(static fn (int $i): int => $basis->numbers[$i], \array_slice($nearest, 0, 5)),
            false,
        );
    }

    /** The records that a model of neighbors answered by; null for other models. */
    private function own(Subject $subject): ?NeighborsView
    {
        $model = $subject->reasoning->model;
        $prepared = $model->preparation->apply($subject->record);
        if (!$model->model instanceof ShowsNeighbors || [] !== $prepared->out) {
            return null;
        }
        $near = $model->model->neighbors($prepared->table, 0, $model->model->asked());
        $came = array_column($near, 'outcome');
        $study = $subject->trial->study();
        $rows = ($subject->handed ? $this->ground->whole($study, []) : $this->ground->open($study, []))[2];
        $class = Task::MORE === $model->task ? $model->answers($subject->record)->likeliest(0) : 1;

        return [] === $near ? null : new NeighborsView(
            \count($near),
            Task::NUMBER === $model->task ? null : \count(array_filter($came, static fn (float $y): bool => (int) $y === $class)),
            Task::NUMBER === $model->task ? array_sum($came) / \count($came) : null,
            array_map(static fn (array $n): int => 1 + $rows[$n['row']], \array_slice($near, 0, self::LISTED)),
            true,
        );
    }

    public function local(Subject $subject): LocalView
    {
        $told = $subject->reasoning->local($subject->record, self::classOf($subject->reasoning, $this->answer($subject)));
        $terms = [];
        foreach ($told['terms'] as $column => $contribution) {
            $terms[] = new LocalTerm((string) $column, $subject->record->column((string) $column)->text(0), $contribution);
        }

        return new LocalView($terms, $told['fit']);
    }
}
