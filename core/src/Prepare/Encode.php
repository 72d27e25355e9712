<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\Evidence;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;

/** Turns categories into numbers or marks. What comes from the target is learned out-of-fold. Formulas: docs/methods/preparation.md. */
final readonly class Encode implements Step
{
    public const MARKS = 'one column a value';
    public const FREQUENCY = 'frequency';
    public const TARGET = 'share of the event';
    public const EVIDENCE = 'weight of evidence';
    public const METHODS = [self::MARKS, self::FREQUENCY, self::TARGET, self::EVIDENCE];
    /** Parts of the training rows, each encoded by the others. */
    public const FOLDS = 5;
    /** Records of the overall share that are added to each value's own. */
    private const PRIOR = 20.0;
    private const MOST_MARKS = 200;

    public function __construct(private Chosen $columns, private string $method)
    {
    }

    public static function described(): Described
    {
        return new Described('encode', 'Encode categories', 'values', 'Turns categories into numbers or marks: one yes/no column a value, how frequent the value is, or what it says about the event, learned on other rows than it is used on.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Category->value, Kind::YesNo->value]),
            new Setting('method', 'as', Setting::CHOICE, choices: self::METHODS, default: self::MARKS),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns(), $given->choice('method', self::METHODS));
    }

    public function toArray(): array
    {
        return ['step' => 'encode', 'method' => $this->method] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedStep
    {
        $columns = [];
        foreach ($this->columns->among($lesson->table, $lesson->rows, [Kind::Category, Kind::YesNo], 'can be encoded') as $name) {
            $column = $lesson->table->column($name);
            \assert($column instanceof CodedColumn);
            $columns[$name] = $column;
        }
        if (self::MARKS === $this->method) {
            return new FittedMarks(array_map(static fn (CodedColumn $c) => self::known($c, $lesson->rows), $columns));
        }
        if (self::FREQUENCY === $this->method) {
            $shares = array_map(static function (CodedColumn $c) use ($lesson): array {
                $counts = $c->counts($lesson->rows);
                $n = max(1, \count($lesson->rows));

                return array_map(static fn (int $count) => $count / $n, array_filter(array_combine($c->levels, \array_slice($counts, 0, \count($c->levels)))));
            }, $columns);

            return new FittedCodes($shares, array_map(static fn () => 0.0, $columns), $this->method);
        }

        return $this->fromTarget($lesson, $columns);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<string> levels of training rows, in byte order
     */
    private static function known(CodedColumn $column, array $rows): array
    {
        $levels = array_map(static fn (int $code) => $column->levels[$code], array_keys(array_filter($column->counts($rows))));
        sort($levels, \SORT_STRING);
        if (\count($levels) > self::MOST_MARKS) {
            throw new CannotPrepare(\sprintf('It would make %d columns. Group rare values first, or encode by frequency.', \count($levels)));
        }

        return $levels;
    }

    /** @param array<array-key, CodedColumn> $columns */
    private function fromTarget(Lesson $lesson, array $columns): FittedCodes
    {
        $event = $lesson->event();
        $rows = $lesson->judged();
        if ([] === $rows) {
            throw new CannotPrepare('No training row has a known outcome to learn from.');
        }
        $codes = $others = $held = [];
        foreach ($columns as $name => $column) {
            [$codes[$name], $others[$name]] = $this->learn($column, $rows, $event);
            $held[$name] = [];
            for ($fold = 0; $fold < self::FOLDS; ++$fold) {
                $rest = $own = [];
                foreach ($rows as $i => $row) {
                    if ($i % self::FOLDS === $fold) {
                        $own[] = $row;
                    } else {
                        $rest[] = $row;
                    }
                }
                if ([] === $rest) {
                    continue;
                }
                [$values, $other] = $this->learn($column, $rest, $event);
                foreach ($own as $row) {
                    $level = $column->text($row) ?? FittedCodes::MISSING;
                    $held[$name][$row] = $values[$level] ?? $other;
                }
            }
        }

        return new FittedCodes($codes, $others, $this->method, $held);
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $event
     *
     * @return array{array<array-key, float>, float} by level (missing cells are a level of their own), and for levels never seen
     */
    private function learn(CodedColumn $column, array $rows, array $event): array
    {
        $counts = [];
        $events = 0.0;
        foreach ($rows as $row) {
            $level = $column->text($row) ?? FittedCodes::MISSING;
            $counts[$level] ??= [0, 0];
            ++$counts[$level][$event[$row] > 0.5 ? 0 : 1];
            $events += $event[$row];
        }
        if (self::EVIDENCE === $this->method) {
            return [array_column(Evidence::of($counts)->levels, 'woe', 'level'), 0.0];
        }
        $share = $events / \count($rows);

        return [array_map(static fn (array $c) => ($c[0] + self::PRIOR * $share) / ($c[0] + $c[1] + self::PRIOR), $counts), $share];
    }
}
