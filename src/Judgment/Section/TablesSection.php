<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShownTable;
use Dokimos\Core\Learn\ShowsTables;
use OpenApi\Attributes as OA;

/** Tables that a model shows of itself. */
final readonly class TablesSection implements Section
{
    /** @param list<ShownTable> $tables */
    public function __construct(
        #[OA\Property(enum: ['tables'])]
        public string $kind,
        public array $tables,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $tables = $scoring->model instanceof ShowsTables ? $scoring->model->shownTables() : [];

        return [] === $tables ? null : new self('tables', $tables);
    }
}
