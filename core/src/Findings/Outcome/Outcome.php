<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings\Outcome;

use Dokimos\Core\Measure\Interval;

/**
 * The target as findings see it: an event, a number or several classes, on rows that are neither sealed nor unknown. What goes with it is asked
 * on one scale, from 0.5 (nothing) to 1. Definitions: docs/methods/target-strength.md.
 */
interface Outcome
{
    /**
     * The known rows parted in two, so that both halves have the same share of every outcome.
     *
     * @return ?array{list<int>, list<int>} null where there are too few
     */
    public function halves(): ?array;

    /**
     * How well the parts of a column rank rows, learned on one half and judged on the other.
     *
     * @param list<int> $codes    part of every row, -1 = missing, which is a part like any other
     * @param list<int> $learning
     * @param list<int> $judging
     *
     * @return array{value: float, half: float, settled: float} half the width of the 95 % interval; the share of events nearly settled alone
     */
    public function ranked(array $codes, array $learning, array $judging): array;

    /**
     * The chance of so strong a relation if there were none.
     *
     * @param list<int>    $codes
     * @param ?list<float> $values of a column of numbers or dates
     */
    public function chance(array $codes, ?array $values): float;

    /**
     * What a direction is told about: per row a number or 1 and 0, NAN = unknown; and what is put before the words.
     *
     * @param list<int> $codes
     *
     * @return array{list<float>, string}
     */
    public function told(array $codes): array;

    /** A mean of what is told, in words. */
    public function write(float $mean): string;

    /** @return non-empty-list<?string> what rules may be about: each class, or the target itself (null) */
    public function facets(): array;

    /**
     * @param list<int> $rows
     *
     * @return non-empty-list<float> per facet the sum over these rows
     */
    public function sums(array $rows): array;

    /**
     * How much a facet spreads over these rows, so that facets can be compared; none where a facet has too few records to tell.
     *
     * @param list<int> $rows
     *
     * @return non-empty-list<?float>
     */
    public function spreads(array $rows): array;

    /**
     * The mean of a facet over these rows with its 95 % interval.
     *
     * @param list<int> $rows
     */
    public function mean(int $facet, array $rows): Interval;
}
