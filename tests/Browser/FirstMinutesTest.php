<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** The first minutes: a tour by keyboard, every main view at twice its size, one's own account. */
final class FirstMinutesTest extends Journey
{
    /** Main views, and what somebody who hears them needs to find there. */
    private const VIEWS = [
        '/' => [['button', 'New study…'], ['link', 'Which visits will need a return trip?'], ['button', 'Delete Return visits']],
        '/people' => [['button', 'Invite by link'], ['button', 'Ask for a code from an app too'], ['textbox', 'Add by sign-in name']],
        '/study/1/table' => [['tab', 'Inputs 18'], ['checkbox', 'Choose boiler_age'], ['button', 'Change target…']],
        '/study/1/preparation' => [['button', 'Undo'], ['button', 'Variants…'], ['link', 'Plan a trial']],
        '/study/1/trials' => [['button', 'Run this trial'], ['checkbox', 'Gradient boosting'], ['button', 'Settings of Decision tree']],
        '/study/2/judgment' => [['checkbox', 'Take trial 1'], ['button', 'Note of trial 2'], ['link', 'Save as CSV']],
        '/study/2/decisions' => [['button', 'Score 1,500 records'], ['button', 'Trial: trial 1, logistic regression']],
        '/study/2/decisions/dossier' => [['link', 'Short form, 1 page'], ['combobox', 'Comment on'], ['textbox', 'What is to be said']],
    ];

    public function testATourByKeyboardAndEveryViewAtTwiceItsSize(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $driver = self::$chrome->driver;
        $this->click('button', 'A tour in five steps');
        for ($step = 1; $step <= 5; ++$step) {
            $this->see('.tour', "$step of 5");
            1 === $step && $this->axe('the tour');
            // Its note has the focus: the next stop is some tabs and one key away.
            $last = $driver->findElements(WebDriverBy::cssSelector('.tour button'));
            $last[\count($last) - 1]->sendKeys(WebDriverKeys::ENTER);
        }
        self::assertSame([], $driver->findElements(WebDriverBy::cssSelector('.tour, .tour-offer')));
        $this->open('/people');
        $this->see('h2', 'How you sign in');
        $this->see('td', 'signed in', 20);
        $this->axe('people');
        $this->open('/study/2/again');
        $this->see('h2', 'This study follows no file');
        $this->axe('done again');
        // By the names that a screen reader tells: nothing that can be acted on has none, and what a view is for is among them.
        foreach (self::VIEWS as $path => $names) {
            $this->open($path);
            $this->see('h1', '', 30);
            $end = microtime(true) + 20;
            do {
                $told = self::$chrome->told();
                $lacking = array_values(array_filter($names, static fn (array $name): bool => !\in_array($name, $told, true)));
            } while ([] !== $lacking && microtime(true) < $end);
            self::assertSame([], $lacking, $path.' tells '.json_encode($told));
            $nameless = array_filter($told, static fn (array $t): bool => '' === $t[1]);
            self::assertSame([], array_values($nameless), $path.': a control has no name');
            self::assertSame(0, $driver->executeScript('return document.getAnimations().length'), $path.': who wants no motion has none');
        }
        // 200 % of a window of 1,280: nothing is lost to the side, and nothing lies over something else that has to be pressed.
        self::$chrome->size(640, 800);
        try {
            foreach (array_keys(self::VIEWS) as $path) {
                $this->open($path);
                $this->see('h1', '', 30);
                $wide = $driver->executeScript('return [document.documentElement.scrollWidth, innerWidth]');
                \assert(\is_array($wide));
                self::assertLessThanOrEqual($wide[1] + 1, $wide[0], $path.' reaches beyond the window');
            }
        } finally {
            self::$chrome->size(1280, 800);
        }
    }
}
