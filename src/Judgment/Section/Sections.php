<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;

/** The parts of a trial's page, in their order. */
final readonly class Sections
{
    private const ORDER = [
        EventSection::class,
        NumberSection::class,
        ClassSection::class,
        CalibratedSection::class,
        LeavesSection::class,
        RulesSection::class,
        ChoiceSection::class,
        LeaningSection::class,
        TreesSection::class,
        CurvesSection::class,
        NetworkSection::class,
        EvidenceSection::class,
        NeighborsSection::class,
        CourseSection::class,
        BendsSection::class,
        BlendSection::class,
        TablesSection::class,
    ];

    public function __construct(private Coefficients $coefficients)
    {
    }

    /** @return list<Section|CoefficientsSection> */
    public function of(Trial $trial, ScoringModel $scoring): array
    {
        $all = array_map(static fn (string $section): ?Section => $section::of($trial, $scoring), self::ORDER);

        return array_values(array_filter([...$all, $this->coefficients->of($trial, $scoring)]));
    }
}
