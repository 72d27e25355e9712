<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Operation;

/** Moves numbers by what they were off on average: the mean of what came less what was said. Definition: docs/methods/recheck.md. */
final readonly class Shift implements Calibrator
{
    public const NAME = 'shift';

    public function __construct(public float $by)
    {
    }

    /**
     * @param list<float> $came   numbers, as many as
     * @param list<float> $answer those that were said of the same records
     *
     * @throws CannotCalibrate without two records to learn from
     */
    public static function fit(array $came, array $answer): self
    {
        if (\count($came) < 2) {
            throw new CannotCalibrate('Numbers are moved by what they were off: two records with a known outcome are needed.');
        }

        return new self(array_sum(array_map(static fn (float $y, float $said): float => $y - $said, $came, $answer)) / \count($came));
    }

    public function of(float $chance): float
    {
        return $chance + $this->by;
    }

    public function expression(Expression $chance): Expression
    {
        return Operation::sum([$chance, new Constant($this->by)]);
    }

    public function toArray(): array
    {
        return ['way' => self::NAME, 'by' => $this->by];
    }

    /** @param array<string, mixed> $kept */
    public static function read(array $kept): self
    {
        return new self(is_numeric($kept['by'] ?? null) ? (float) $kept['by'] : 0.0);
    }
}
