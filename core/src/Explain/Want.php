<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Task\Answers;

/** An answer that is wished for: a number or chance within bounds, or a class; any other class where none is named. */
final readonly class Want
{
    /**
     * @param ?float $low   at least; null = no limit
     * @param ?float $high  at most
     * @param ?int   $class place of the class that is wanted, of several
     * @param ?int   $not   place of the class that is not wanted
     */
    private function __construct(private ?float $low, private ?float $high, private ?int $class, private ?int $not)
    {
    }

    public static function between(?float $low, ?float $high): self
    {
        return new self($low, $high, null, null);
    }

    public static function ofClass(int $class): self
    {
        return new self(null, null, $class, null);
    }

    public static function anyBut(int $class): self
    {
        return new self(null, null, null, $class);
    }

    /** How far an answer is from what is wanted: 0 where it is reached, INF where there is no answer. */
    public function short(Answers $answers, int $row): float
    {
        if (!$answers->isKnown($row)) {
            return \INF;
        }
        if (null !== $this->class || null !== $this->not) {
            $best = $answers->likeliest($row);
            if (null !== $this->class ? $best === $this->class : $best !== $this->not) {
                return 0.0;
            }
            $own = $answers->of($row);
            $top = $own[$best];
            unset($own[$this->class ?? (int) $this->not]);

            return null !== $this->class ? $top - $answers->ofClass($row, $this->class) + 1e-9 : $top - max([0.0, ...$own]) + 1e-9;
        }
        $value = $answers->first($row);

        return max(0.0, null === $this->low ? 0.0 : $this->low - $value, null === $this->high ? 0.0 : $value - $this->high);
    }
}
