<?php

declare(strict_types=1);

namespace App\Tests;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** The core knows nothing above it, and inside it the arrows go one way too. */
final class CoreLayers
{
    /** Lowest first: each may use those before it only, so there can be no circle. */
    private const ORDER = [
        'Math',
        'Table',
        'Expression',
        'Profile',
        'Format',
        'Select',
        'Formula',
        'Design',
        'Task',
        'Measure',
        'Calibrate',
        'Figure',
        'Prepare',
        'Combine',
        'Picture',
        'Findings',
        'Learn',
        'Learners',
        'Explain',
        'Blend',
        'Decide',
        'TakeAway',
        'Recheck',
        'Dossier',
        'Act',
        'Validate',
        'Search',
        'Guide',
    ];

    private const FAMILIES = ['Additive', 'Baseline', 'Bayes', 'Boosting', 'Forest', 'Linear', 'Logistic', 'Neighbors', 'Network', 'Rules'];
    private const SHARED = ['Tree', 'Selection'];

    public function testCoreStandsAlone(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('Dokimos\Core'))
            ->shouldNotDependOn()
            ->classes(
                Selector::inNamespace('App'),
                Selector::inNamespace('Symfony'),
                Selector::inNamespace('Doctrine'),
                Selector::inNamespace('Psr'),
            )
            // The parser of formulas is the one component the core leans on.
            ->excluding(Selector::inNamespace('Symfony\Component\ExpressionLanguage'))
            ->because('the rules of the job have no framework, no database and no HTTP');
    }

    /**
     * Families of learners do not know each other; trees, and the choice of columns, serve several.
     *
     * @return iterable<Rule>
     */
    public function testFamiliesOfLearnersStandApart(): iterable
    {
        $family = static fn (string $name) => Selector::inNamespace('Dokimos\Core\Learn\\'.$name);
        foreach ([...self::FAMILIES, ...self::SHARED] as $name) {
            $others = array_values(array_diff(self::FAMILIES, [$name]));
            yield $name => PHPat::rule()
                ->classes($family($name))
                ->shouldNotDependOn()
                ->classes(...array_map($family, $others))
                ->because('a learner is added, and taken out, in one folder');
        }
    }

    /** @return iterable<Rule> */
    public function testArrowsPointDown(): iterable
    {
        foreach (self::ORDER as $i => $name) {
            $above = \array_slice(self::ORDER, $i + 1);
            if ([] !== $above) {
                yield $name => PHPat::rule()
                    ->classes(Selector::inNamespace('Dokimos\Core\\'.$name))
                    ->shouldNotDependOn()
                    ->classes(...array_map(static fn (string $a) => Selector::inNamespace('Dokimos\Core\\'.$a), $above))
                    ->because('a lower layer does not know a higher one');
            }
        }
    }
}
