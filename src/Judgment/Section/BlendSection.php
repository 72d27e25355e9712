<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShowsBlend;
use OpenApi\Attributes as OA;

/** Which trials a blend is made of, and how much each counts. */
final readonly class BlendSection implements Section
{
    /** @param list<BlendMemberView> $members */
    public function __construct(
        #[OA\Property(enum: ['blend'])]
        public string $kind,
        public string $how,
        public array $members,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        return $scoring->model instanceof ShowsBlend ? new self('blend', $scoring->model->how(), array_map(
            static fn (array $m): BlendMemberView => new BlendMemberView($m['trial'], $m['name'], $m['weight']),
            $scoring->model->members(),
        )) : null;
    }
}
