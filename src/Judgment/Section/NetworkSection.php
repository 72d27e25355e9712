<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShownNode;
use Dokimos\Core\Learn\ShowsNetwork;
use OpenApi\Attributes as OA;

/** Columns that hang on the target and on each other, with their tables. */
final readonly class NetworkSection implements Section
{
    /**
     * @param list<string>    $classes
     * @param list<ShownNode> $nodes   that which tells most first
     */
    public function __construct(
        #[OA\Property(enum: ['network'])]
        public string $kind,
        public array $classes,
        public array $nodes,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;

        return $model instanceof ShowsNetwork && [] !== $model->nodes() ? new self('network', $model->classes(), $model->nodes()) : null;
    }
}
