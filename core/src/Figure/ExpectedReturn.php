<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Task\Task;

/**
 * What acting at the best cut-off returns, for 100 records: those are acted on whose chance is at least the one at which an action pays,
 * (cost + in vain) / (brought + in vain), which no row chose. Definition: docs/methods/binary-figures.md.
 */
final readonly class ExpectedReturn extends RowMean
{
    public const PREFIX = 'return:';

    /**
     * @param float $cost    of an action
     * @param float $brought by an action on a record with the event, on average
     * @param float $vain    more that acting on another record costs
     */
    public function __construct(private float $cost, private float $brought, private float $vain)
    {
        $said = static fn (float $v): string => (string) (float) \sprintf('%.6g', $v);
        parent::__construct(
            self::PREFIX.implode(':', array_map($said, [$cost, $brought, $vain])),
            'Return per 100',
            \sprintf('expected return when an action costs %s and brings %s', $said($cost), $said($brought)),
            'What acting at the best cut-off returns for 100 records, in money; more is better.',
            [Task::TWO],
            true,
            false,
            inUnits: true,
        );
    }

    /**
     * @param string $key such as "return:6.5:34.2:0"
     *
     * @throws \InvalidArgumentException where it holds no amounts
     */
    public static function ofKey(string $key): self
    {
        $amounts = explode(':', substr($key, \strlen(self::PREFIX)));
        $numbers = array_map(floatval(...), array_filter($amounts, is_numeric(...)));
        $three = 3 === \count($numbers) && 3 === \count($amounts);
        if (!$three || min($numbers) < 0.0 || $numbers[1] <= 0.0 || !is_finite(array_sum($numbers))) {
            throw new \InvalidArgumentException('A return needs the cost of an action, what it brings, and what acting in vain costs.');
        }

        return new self($numbers[0], $numbers[1], $numbers[2]);
    }

    /** The chance from which on an action pays. */
    private function even(): float
    {
        return ($this->cost + $this->vain) / ($this->brought + $this->vain);
    }

    public function losses(Sample $sample): array
    {
        $even = $this->even();
        $event = 100 * ($this->brought - $this->cost);
        $other = -100 * ($this->cost + $this->vain);

        return array_map(
            static fn (float $y, float $p): float => $p < $even ? 0.0 : ($y > 0.5 ? $event : $other),
            $sample->outcome,
            $sample->answers->values,
        );
    }

    /** Acting on all or on nobody, whichever is better. */
    public function baseline(Sample $sample): float
    {
        $rate = $sample->mean();

        return max(0.0, 100 * ($rate * $this->brought - $this->cost - (1 - $rate) * $this->vain));
    }
}
