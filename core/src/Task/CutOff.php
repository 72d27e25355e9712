<?php

declare(strict_types=1);

namespace Dokimos\Core\Task;

/**
 * From which chance on a record is called: a decimal of four significant digits, so that one event in a thousand has cut-offs of its own. The one
 * place where a chance is held against it.
 */
final readonly class CutOff
{
    private function __construct(public float $value)
    {
    }

    public static function at(float $chance): self
    {
        return new self(max(0.0, min(1.0, (float) \sprintf('%.4g', $chance))));
    }

    /** The highest at which a record of this chance is still called. */
    public static function reaching(float $chance): self
    {
        $near = self::at($chance);
        if ($near->value <= $chance || $chance <= 0.0) {
            return $near;
        }

        return self::at($near->value - 10 ** (floor(log10($chance)) - 3));
    }

    /** "Above average": without costs, a cut-off that was not picked on the rows it is judged on; to the hundredth, of rare events to two digits. */
    public static function suggested(float $rate): self
    {
        return self::at($rate >= 0.01 ? max(0.01, round($rate, 2)) : (float) \sprintf('%.2g', $rate));
    }

    /** What nobody chose: more likely than not. */
    public static function half(): self
    {
        return new self(0.5);
    }

    /**
     * Those that a judgment offers: every hundredth, and of rare events each tenth of their share, up to nearly five times it.
     *
     * @return list<self> lowest first
     */
    public static function offered(float $rate): array
    {
        $all = array_map(static fn (int $p): float => $p / 100, range(0, 100));
        if ($rate > 0.0 && $rate < 0.05) {
            for ($k = 1; $k < 50; ++$k) {
                $all[] = (float) \sprintf('%.4g', $rate * $k / 10);
            }
        }
        $all = array_unique($all);
        sort($all);

        return array_map(self::at(...), $all);
    }

    public function calls(float $chance): bool
    {
        return $chance >= $this->value;
    }
}
