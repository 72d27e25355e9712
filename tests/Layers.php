<?php

declare(strict_types=1);

namespace App\Tests;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** One way: controllers over services over entities; nothing reaches up. */
final class Layers
{
    /** Lowest first. */
    private const ORDER = [
        'Http',
        'Storage',
        'Account',
        'Study',
        'Job',
        'Logbook',
        'Source',
        'Table',
        'Question',
        'Register',
        'Finding',
        'Picture',
        'Combine',
        'Preparation',
        'Trial',
        'Search',
        'Judgment',
        'Approval',
        'Score',
        'Decision',
        'Reasons',
        'TakeAway',
        'Service',
        'Recheck',
        'Dossier',
        'Overview',
        'Replay',
        'Demo',
        'Operation',
    ];

    public function testOnlyControllersAnswerRequests(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(Selector::classname('/.*Controller$/', true), Selector::inNamespace('App\Tests'))
            ->shouldNotDependOn()
            ->classes(Selector::classname('/^App\\\\.*Controller$/', true))
            ->because('services and entities know nothing of controllers');
    }

    /** @return iterable<Rule> */
    public function testFoldersStandInOrder(): iterable
    {
        $in = static fn (string $folder) => Selector::inNamespace('App\\'.$folder);
        foreach (self::ORDER as $i => $name) {
            $above = \array_slice(self::ORDER, $i + 1);
            if ([] !== $above) {
                yield $name => PHPat::rule()
                    ->classes($in($name))
                    ->shouldNotDependOn()
                    ->classes(...array_map($in, $above))
                    ->because('each folder uses only those that stand before it');
            }
        }
    }

    public function testTheCommandLineNeedsOnlyTheCore(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App\CommandLine'))
            ->shouldNotDependOn()
            ->classes(
                Selector::inNamespace('App\Storage'),
                Selector::inNamespace('App\Table'),
                Selector::inNamespace('App\Study'),
                Selector::inNamespace('App\Trial'),
                Selector::inNamespace('App\Job'),
            )
            ->because('anyone can check a figure without a database');
    }

    public function testStoredCellsAreReadPastTheSeal(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(
                Selector::inNamespace('App\Question'),
                Selector::inNamespace('App\Tests'),
                Selector::classname('App\Score\ScoredTables'),
                // Writes tables anew without a person's records and shows them to nobody.
                Selector::classname('App\Operation\Erasing'),
            )
            ->shouldNotDependOn()
            ->classes(Selector::classname('App\Table\TableReader'))
            ->because(
                'OpenCells hides what is sealed; only it and SealedCells read cells as they are stored; what a model says is no outcome',
            );
    }

    public function testFewLookBehindTheSeal(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(
                Selector::inNamespace('App\Question'),
                Selector::inNamespace('App\Tests'),
                Selector::classname('App\Question\Targets'),
                Selector::classname('App\Question\Ground'),
            )
            ->shouldNotDependOn()
            ->classes(Selector::classname('App\Question\SealedCells'))
            ->because('sealed outcomes serve the draw and the one examination');
    }
}
