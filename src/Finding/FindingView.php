<?php

declare(strict_types=1);

namespace App\Finding;

/** One finding with its evidence, what can be done, and whether it was settled. */
final readonly class FindingView
{
    /**
     * @param string           $short    a few words for the Register
     * @param list<string>     $columns  none when it is about whole rows
     * @param list<int>        $rows     numbers of records that show it, the most telling first
     * @param list<RemedyView> $remedies
     */
    public function __construct(
        public string $key,
        public string $sort,
        public string $severity,
        public string $short,
        public array $columns,
        public string $sentence,
        public array $rows,
        public array $remedies,
        public ?DismissalView $dismissed,
    ) {
    }
}
