<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Judgment\Section as Part;
use App\Trial\TrialView;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;

/** How good a trial is on rows its models had not seen. */
final readonly class JudgmentView
{
    /**
     * @param ?float                                      $cutoff     the one to begin with, where chances of an event are given
     * @param list<string>                                $inputs     columns that might serve
     * @param int                                         $unanswered of the rows judged on
     * @param ?SealedView                                 $sealed     null while the seal is closed for this trial
     * @param list<string>                                $notes
     * @param list<Part\Section|Part\CoefficientsSection> $sections   in the order of the page
     */
    public function __construct(
        public TrialView $trial,
        public ?string $target,
        public ?string $event,
        public ?float $cutoff,
        public array $inputs,
        public int $unanswered,
        public int $sealedRows,
        public ?SealedView $sealed,
        public array $notes,
        #[OA\Property(type: 'array', items: new OA\Items(oneOf: [
            new OA\Schema(ref: new Model(type: Part\EventSection::class)),
            new OA\Schema(ref: new Model(type: Part\NumberSection::class)),
            new OA\Schema(ref: new Model(type: Part\ClassSection::class)),
            new OA\Schema(ref: new Model(type: Part\CalibratedSection::class)),
            new OA\Schema(ref: new Model(type: Part\LeavesSection::class)),
            new OA\Schema(ref: new Model(type: Part\RulesSection::class)),
            new OA\Schema(ref: new Model(type: Part\ChoiceSection::class)),
            new OA\Schema(ref: new Model(type: Part\LeaningSection::class)),
            new OA\Schema(ref: new Model(type: Part\TreesSection::class)),
            new OA\Schema(ref: new Model(type: Part\CurvesSection::class)),
            new OA\Schema(ref: new Model(type: Part\NetworkSection::class)),
            new OA\Schema(ref: new Model(type: Part\EvidenceSection::class)),
            new OA\Schema(ref: new Model(type: Part\NeighborsSection::class)),
            new OA\Schema(ref: new Model(type: Part\CourseSection::class)),
            new OA\Schema(ref: new Model(type: Part\BendsSection::class)),
            new OA\Schema(ref: new Model(type: Part\BlendSection::class)),
            new OA\Schema(ref: new Model(type: Part\TablesSection::class)),
            new OA\Schema(ref: new Model(type: Part\CoefficientsSection::class)),
        ], discriminator: new OA\Discriminator(propertyName: 'kind', mapping: [
            'event' => '#/components/schemas/EventSection',
            'number' => '#/components/schemas/NumberSection',
            'classes' => '#/components/schemas/ClassSection',
            'calibrated' => '#/components/schemas/CalibratedSection',
            'leaves' => '#/components/schemas/LeavesSection',
            'rules' => '#/components/schemas/RulesSection',
            'choice' => '#/components/schemas/ChoiceSection',
            'leaning' => '#/components/schemas/LeaningSection',
            'trees' => '#/components/schemas/TreesSection',
            'curves' => '#/components/schemas/CurvesSection',
            'network' => '#/components/schemas/NetworkSection',
            'evidence' => '#/components/schemas/EvidenceSection',
            'neighbors' => '#/components/schemas/NeighborsSection',
            'course' => '#/components/schemas/CourseSection',
            'bends' => '#/components/schemas/BendsSection',
            'blend' => '#/components/schemas/BlendSection',
            'tables' => '#/components/schemas/TablesSection',
            'coefficients' => '#/components/schemas/CoefficientsSection',
        ])))]
        public array $sections,
    ) {
    }
}
