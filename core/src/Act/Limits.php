<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** What a list can bear before it returns nothing: the cost of an action, and how seldom it may work. */
final readonly class Limits
{
    /**
     * @param ?float $cost  of an action; null of an empty list
     * @param ?float $works share of actions; null where nothing is brought
     */
    private function __construct(public ?float $cost, public ?float $works)
    {
    }

    /** @param list<int> $rows */
    public static function of(EventTerms $terms, array $rows): self
    {
        $f = $terms->figures($rows);
        $sure = $terms->under($terms->economics->working(1.0))->figures($rows)->gross;

        return new self(
            [] === $rows ? null : ($f->gross - $f->inVain) / $f->actions,
            $sure > 0.0 ? ($f->cost + $f->inVain) / $sure : null,
        );
    }
}
