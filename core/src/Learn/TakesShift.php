<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model whose log-odds can be moved within itself, so that its own account of them stays whole. */
interface TakesShift
{
    /** The same model with log-odds a + b times its own. */
    public function shifted(float $a, float $b): Model;
}
