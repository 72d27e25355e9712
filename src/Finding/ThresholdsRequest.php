<?php

declare(strict_types=1);

namespace App\Finding;

use Symfony\Component\Validator\Constraints as Assert;

/** Thresholds that differ from the usual ones; what is left out becomes usual again. */
final readonly class ThresholdsRequest
{
    /** @param array<string, float|int> $values by name */
    public function __construct(#[Assert\All([new Assert\Type('numeric', message: 'A threshold is a number.')])] public array $values = [])
    {
    }
}
