<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

/** A log-likelihood, less a ridge, as a function of the coefficients. */
interface Smooth
{
    /**
     * @param list<float> $beta
     *
     * @return array{float, list<float>, list<list<float>>} value, gradient, lower triangle of the information
     */
    public function evaluate(array $beta): array;

    /**
     * @param list<float> $beta
     *
     * @return array{float, list<float>} value and gradient
     */
    public function slope(array $beta): array;

    /**
     * What the ridge takes off.
     *
     * @param list<float> $beta
     */
    public function penalty(array $beta): float;

    /** Terms of a class; the first of them is its constant, which is free. */
    public function width(): int;
}
