<?php

declare(strict_types=1);

namespace App\Tests;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** One way: controllers over services over entities; nothing reaches up. */
final class Layers
{
    public function testOnlyControllersAnswerRequests(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(Selector::classname('/.*Controller$/', true), Selector::inNamespace('App\Tests'))
            ->shouldNotDependOn()
            ->classes(Selector::classname('/^App\\\\.*Controller$/', true))
            ->because('services and entities know nothing of controllers');
    }

    public function testStorageKnowsNoFeature(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App\Storage'))
            ->shouldNotDependOn()
            ->classes(Selector::inNamespace('App\Table'), Selector::inNamespace('App\Study'), Selector::inNamespace('App\Trial'), Selector::inNamespace('App\Decision'), Selector::inNamespace('App\Preparation'))
            ->because('the cell store is the lowest layer of the application');
    }

    public function testTheCommandLineNeedsOnlyTheCore(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App\CommandLine'))
            ->shouldNotDependOn()
            ->classes(Selector::inNamespace('App\Storage'), Selector::inNamespace('App\Table'), Selector::inNamespace('App\Study'), Selector::inNamespace('App\Trial'), Selector::inNamespace('App\Job'))
            ->because('anyone can check a figure without a database');
    }

    public function testStoredCellsAreReadPastTheSeal(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(Selector::inNamespace('App\Question'), Selector::inNamespace('App\Tests'), Selector::classname('App\Decision\ScoredTables'))
            ->shouldNotDependOn()
            ->classes(Selector::classname('App\Table\TableReader'))
            ->because('OpenCells hides what is sealed; only it and SealedCells read cells as they are stored; what a model says is no outcome');
    }

    public function testFewLookBehindTheSeal(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App'))
            ->excluding(Selector::inNamespace('App\Question'), Selector::inNamespace('App\Tests'), Selector::classname('App\Question\Targets'), Selector::classname('App\Question\Ground'))
            ->shouldNotDependOn()
            ->classes(Selector::classname('App\Question\SealedCells'))
            ->because('sealed outcomes serve the draw and the one examination');
    }
}
