<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use OpenApi\Attributes as OA;

/** What the ranking figure loses, on rows the models had not seen, when a column is shuffled among them; most first. */
final readonly class LeaningSection implements Section
{
    /** @param list<LostView> $columns */
    public function __construct(
        #[OA\Property(enum: ['leaning'])]
        public string $kind,
        public array $columns,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $kept = $trial->figures()['importance'] ?? [];
        $lines = [];
        foreach (\is_array($kept) ? $kept : [] as $line) {
            /** @var array{column: string, value?: ?float, low?: ?float, high?: ?float} $line */
            if (isset($line['value'])) {
                $lines[] = new LostView($line['column'], $line['value'], $line['low'] ?? null, $line['high'] ?? null);
            }
        }

        return [] === $lines ? null : new self('leaning', $lines);
    }
}
