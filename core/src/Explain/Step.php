<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** What the effect of a number is told for. */
final readonly class Step
{
    /**
     * @param float $units   in units of the model, by which a coefficient is multiplied
     * @param float $told    in units of the column as it came, or as it was prepared
     * @param bool  $changed whether the column was changed in a way that is not one of units: it is told as it was prepared
     */
    public function __construct(public float $units, public float $told, public bool $changed)
    {
    }

    public static function plain(float $units): self
    {
        return new self($units, $units, false);
    }
}
