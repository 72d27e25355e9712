<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Puts numbers on another scale, learned on training rows. Formulas: docs/methods/preparation.md. */
final readonly class Scale implements Step
{
    public const STANDARD = 'standard';
    public const RANGE = 'range';
    public const LOG = 'logarithm';
    public const RANK = 'rank';
    private const METHODS = [self::STANDARD, self::RANGE, self::LOG, self::RANK];
    /** Points that a learned distribution is kept by. */
    private const POINTS = 256;

    public function __construct(private Chosen $columns, private string $method)
    {
    }

    public static function described(): Described
    {
        return new Described('scale', 'Scale numbers', 'values', 'Puts numbers on another scale: standard (mean 0, spread 1), range (0 to 1), logarithm, or rank (share of training rows below).', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Number->value]),
            new Setting('method', 'to', Setting::CHOICE, choices: self::METHODS, default: self::STANDARD),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns(), $given->choice('method', self::METHODS));
    }

    public function toArray(): array
    {
        return ['step' => 'scale', 'method' => $this->method] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedScale
    {
        $learned = [];
        foreach ($this->columns->among($lesson->table, $lesson->rows, [Kind::Number], 'can be scaled') as $name) {
            $values = $lesson->table->number($name)->values;
            $known = array_map(static fn (int $r) => $values[$r], $lesson->rows);
            $learned[$name] = $this->learn($name, $known);
        }

        return new FittedScale($learned, $this->method);
    }

    /**
     * @param list<float> $values of training rows
     *
     * @return list<float>
     */
    private function learn(string $name, array $values): array
    {
        $summary = NumberSummary::of($values);
        if (0 === $summary->n) {
            throw new CannotPrepare(\sprintf('%s has no value in any training row, so it has no scale.', $name));
        }
        $figure = static fn (string $of): float => (float) $summary->figure($of);

        return match ($this->method) {
            self::STANDARD => [$figure('mean'), $summary->n > 1 ? $figure('sd') : 0.0],
            self::RANGE => [$figure('min'), $figure('max') - $figure('min')],
            self::LOG => [],
            default => self::points($values),
        };
    }

    /**
     * @param list<float> $values
     *
     * @return list<float> quantiles of type 7, ascending
     */
    private static function points(array $values): array
    {
        $known = array_values(array_filter($values, static fn (float $v) => $v === $v));
        sort($known, \SORT_NUMERIC);

        return NumberSummary::quantiles($known, array_fill(0, \count($known), 1), \count($known), array_map(static fn (int $i) => $i / self::POINTS, range(0, self::POINTS)));
    }
}
