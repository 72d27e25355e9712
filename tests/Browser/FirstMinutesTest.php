<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** The first minutes: a tour by keyboard, every main view at twice its size, one's own account. */
final class FirstMinutesTest extends Journey
{
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
        // 200 % of a window of 1,280: nothing is lost to the side, and nothing lies over something else that has to be pressed.
        self::$chrome->size(640, 800);
        try {
            foreach ([
                '/',
                '/people',
                '/study/1/table',
                '/study/1/preparation',
                '/study/1/trials',
                '/study/2/judgment',
                '/study/2/decisions',
                '/study/2/decisions/dossier',
            ] as $path) {
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
