<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** Whether answers promise as much as comes: then, now, and whether that has changed. */
final readonly class Promise
{
    /**
     * @param Interval $then what came less what was promised, a record; in units of a number
     * @param ?float   $p    that it changed as much by chance
     * @param ?int     $of   of several classes the one that changed most
     */
    private function __construct(public Interval $then, public Interval $now, public Interval $change, public ?float $p, public ?int $of)
    {
    }

    public static function of(Judged $then, Judged $now): ?self
    {
        if ($then->rows() < 2 || $now->rows() < 2) {
            return null;
        }
        if (Task::NUMBER === $then->task) {
            return self::between(self::errors($then), self::errors($now));
        }
        if (Task::TWO === $then->task) {
            return self::between(self::large($then->inTheLarge()), self::large($now->inTheLarge()));
        }
        $worst = null;
        $many = $then->answers->width;
        for ($class = 0; $class < $many; ++$class) {
            $own = self::between(self::large($then->inTheLarge($class)), self::large($now->inTheLarge($class)), $class);
            if (null !== $own->p && (null === $worst || $own->p < $worst->p)) {
                $worst = $own;
            }
        }

        // The one that changed most was chosen among all classes.
        return null === $worst ? null : new self(
            $worst->then,
            $worst->now,
            $worst->change,
            min(1.0, $many * ($worst->p ?? 1.0)),
            $worst->of,
        );
    }

    /** @return array{float, float} what it is, and its variance */
    private static function large(InTheLarge $l): array
    {
        return [$l->off(), $l->variance / $l->rows ** 2];
    }

    /** @return array{float, float} */
    private static function errors(Judged $of): array
    {
        $off = [];
        foreach ($of->outcome as $row => $y) {
            $off[] = $y - $of->answers->first($row);
        }
        $n = \count($off);
        $mean = array_sum($off) / $n;

        return [$mean, array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $off)) / ($n - 1) / $n];
    }

    /**
     * @param array{float, float} $then
     * @param array{float, float} $now
     */
    private static function between(array $then, array $now, ?int $of = null): self
    {
        $with = static fn (float $v, float $variance): Interval => new Interval(
            $v,
            $v - Normal::Z95 * sqrt($variance),
            $v + Normal::Z95 * sqrt($variance),
        );
        $se = sqrt($then[1] + $now[1]);
        $change = $now[0] - $then[0];

        return new self(
            $with(...$then),
            $with(...$now),
            $with($change, $se ** 2),
            $se > 0.0 ? (new Normal())->twoSided($change / $se) : null,
            $of,
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'then' => $this->then->toArray(), 'now' => $this->now->toArray(), 'change' => $this->change->toArray(),
            'p' => $this->p, 'class' => $this->of,
        ];
    }
}
