<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** From scored records to a list on paper, by mouse and by keyboard, and a routine that is run twice. */
final class DecisionsJourneyTest extends Journey
{
    private function write(string $label, string $text): void
    {
        $fields = self::$chrome->driver->findElements(
            WebDriverBy::xpath("//label[normalize-space(.)='$label']//input | //input[@aria-label='$label']"),
        );
        // A dialog stands last in the page.
        $field = $fields[\count($fields) - 1] ?? self::fail("There is no field $label.");
        // The value is replaced as a person does it: all of it chosen, and written over.
        $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $field->sendKeys($text);
        $field->sendKeys(WebDriverKeys::TAB);
    }

    public function testFromAScoredTableToTheSheetOfThoseWhoCall(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        // Three columns are enough to learn from here: the list is what is looked at.
        $this->open('/study/2/decisions');
        $this->see('h2', 'columns found');
        $this->click('button', 'paste records');
        $this->axe('paste records');
        $this->press(WebDriverKeys::ESCAPE);
        $this->click('button', 'Score ');
        $this->see('h1', ', scored', 40);
        $path = (string) parse_url(self::$chrome->driver->getCurrentURL(), \PHP_URL_PATH);

        // Narrowed by keyboard: the effect is told at once.
        $this->click('button', 'By band…');
        $this->see('p', 'records from 0% to 100%');
        $this->axe('narrowed by answer');
        self::$chrome->driver->executeScript('document.querySelector("[role=slider][aria-label=\'Least answer\']").focus()');
        for ($i = 0; $i < 3; ++$i) {
            $this->press(WebDriverKeys::ARROW_RIGHT);
            usleep(150000);
        }
        $this->see('p', 'records from 3% to 100%');
        $this->write('to', '40%');
        $this->see('p', 'records from 3% to 40%');

        // Kept as a table, with names of the analyst's.
        $this->click('button', 'As a table…');
        $this->axe('as a table');
        $this->write('Name of the table', 'nobody scored');
        $this->write('Name of the answer', 'nobody');
        $this->click('button', 'Make the table');
        $this->see('h1', 'Register', 40);
        $this->see('td', 'nobody_chance');
        $this->see('td', 'confidence');

        // The list: what it costs, how many there can be, who is left untouched.
        $this->open($path);
        $this->click('button', 'Action list');
        $this->see('h1', 'Action list', 20);
        $this->see('figure h3', 'are acted on');
        $this->axe('action list');
        $this->click('button', 'Change costs…');
        $this->axe('terms');
        $this->write('An action costs', '2');
        $this->write('Actions in all', '30');
        $this->write('Left untouched for comparison, of 100', '20');
        $this->click('button', 'Keep', 12, true);
        $this->see('button', 'Act on 30');
        $this->see('button', 'Left untouched 8');
        $before = self::$chrome->driver->executeScript('return document.querySelector("[role=slider]").getAttribute("aria-valuetext")');
        self::$chrome->driver->executeScript('document.querySelector("[role=slider]").focus()');
        $this->press(WebDriverKeys::ARROW_RIGHT);
        $this->until('the edge has moved', \sprintf(
            'return document.querySelector("[role=slider]").getAttribute("aria-valuetext") !== %s',
            json_encode($before, \JSON_THROW_ON_ERROR),
        ));
        $this->click('button', 'Take along…');
        $this->axe('take along');
        $this->write('Name for chance', 'how likely');
        $this->click('button', 'Write it');
        $file = $this->downloaded();
        self::assertStringContainsString('how likely', strtok($file, "\r\n") ?: '');
        self::assertSame(38, substr_count(trim($file), "\n"), '30 to act on, and the 8 left untouched, marked');
        $sheet = (string) self::$chrome->driver->executeScript(
            'return [...document.querySelectorAll("a")].find(a => a.textContent === "Sheet").getAttribute("href")',
        );
        $this->open($sheet);
        self::assertSame(30, self::$chrome->driver->executeScript('return document.querySelectorAll("td.box").length'));
        $this->axe('sheet');
        $this->everyRequestStayedHere();
    }

    public function testARoutineIsRunTwice(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/2/decisions');
        $this->click('button', 'Score ');
        $this->see('h1', ', scored', 40);
        $this->click('button', 'Save as a routine');
        $this->axe('save as a routine');
        $this->write('Name', 'Every Monday');
        $this->click('button', 'Keep the routine');
        foreach ([1, 2] as $edition) {
            $this->open('/study/2/decisions');
            $this->click('button', 'Run now');
            $this->see('p', 'edition '.$edition, 60);
        }
        $this->axe('routines');
        $this->click('a', 'The table');
        $this->see('h1', 'Register');
    }
}
