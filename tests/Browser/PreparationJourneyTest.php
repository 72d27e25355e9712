<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Preparing a table: two orders side by side, bins by dragging, a formula with a mistake mended, a finding to its remedy. */
final class PreparationJourneyTest extends Journey
{
    private function begin(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/1/preparation');
        $this->see('h1', 'Preparation');
    }

    private function add(string $kind): void
    {
        $this->click('button', 'Add a step…');
        $this->click('[role=menuitem]', $kind);
        $this->see('h2', $kind);
    }

    public function testTheGoodAndTheRuinousOrderSideBySide(): void
    {
        $this->begin();
        $this->click('button', 'Variants…');
        $this->click('[role=menuitem]', 'New variant from A');
        $this->see('h2', 'What sets it apart from A?');
        $this->press('Rows dropped'.WebDriverKeys::ENTER);
        $this->see('h1', 'variant B, Rows dropped');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('[aria-label="Remove step 2"]'))->click();
        $this->see('td', 'boiler_age');
        $this->add('Drop rows with missing');
        $this->click('label', 'boiler_age');
        $this->see('.note', 'Filling what is missing instead of dropping its rows');
        $this->axe('preview of a step');
        $this->click('button', 'Apply step');
        $this->see('p', '−');
        $this->see('nav', 'drop rows');
        $this->axe('steps with advice');
        $this->click('button', 'Variants…');
        $this->click('[role=menuitem]', 'Compare side by side');
        $this->see('h1', 'Variants side by side');
        $this->see('b', 'A keeps 1,500; B keeps');
        $this->axe('variants side by side');
        $this->click('button', 'Back to the steps');
        $this->open('/study/1/preparation?variant=B');
        $this->click('.note button', 'Do it that way');
        $this->see('b', 'B keeps 1,500 of 1,500 rows');
        $this->press(WebDriverKeys::CONTROL.'z');
        $this->see('dd', 'of 1,500');
        $this->everyRequestStayedHere();
    }

    public function testBinsAreCutByDraggingAndByKeys(): void
    {
        $this->begin();
        $this->add('Bins');
        $this->click('label', 'days_ahead');
        $this->see('figcaption', 'drag a cut');
        $this->axe('cut points');
        $before = $this->cuts();
        $first = self::$chrome->driver->findElement(WebDriverBy::cssSelector('[role=slider] circle'));
        self::$chrome->driver->executeScript('arguments[0].scrollIntoView({block: "center"})', [$first]);
        (new WebDriverActions(self::$chrome->driver))->clickAndHold($first)->moveByOffset(40, 0)->release()->perform();
        $this->see('button', 'own cut points');
        $dragged = $this->cutsOtherThan($before);
        self::$chrome->driver->executeScript('[...document.querySelectorAll("[role=slider]")].at(-1).focus()');
        $this->press(WebDriverKeys::ARROW_LEFT);
        $this->cutsOtherThan($dragged);
        $this->click('button', 'Apply step');
        $this->see('p', 'with own cut points');
    }

    private function cutsOtherThan(string $before): string
    {
        for ($i = 0; $i < 80 && $this->cuts() === $before; ++$i) {
            usleep(100000);
        }
        self::assertNotSame($before, $this->cuts());

        return $this->cuts();
    }

    private function cuts(): string
    {
        return (string) self::$chrome->driver->executeScript('return [...document.querySelectorAll("table[aria-label=Bins] td:first-child")].map(e => e.textContent).join("; ")');
    }

    public function testAFormulaWithAMistakeIsMendedAndAFindingLeadsToItsStep(): void
    {
        $this->begin();
        $this->add('Column by formula');
        self::$chrome->driver->findElement(WebDriverBy::xpath('//label[contains(., "New column")]/following::input[1]'))->sendKeys('far'.WebDriverKeys::ENTER);
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('textarea'))->sendKeys('travel_km > 20 and engineer_year > 9'.WebDriverKeys::ENTER);
        $this->see('.problem', 'At letter 20: There is no column engineer_year; did you mean engineer_years?');
        $this->axe('a formula with a mistake');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('textarea'))->sendKeys(WebDriverKeys::CONTROL.'a');
        $this->press('travel_km > 20 and engineer_years > 9'.WebDriverKeys::ENTER);
        $this->see('p', 'Makes far: travel_km > 20 and engineer_years > 9.');
        $this->see('td', 'no');
        $this->click('button', 'Apply step');
        $this->see('p', 'Makes far');

        $this->open('/study/1/table/1');
        $this->click('td', 'travel_km');
        $this->click('.note a', 'Make it missing…');
        $this->see('h2', 'Recode values');
        $this->see('p', '-1 becomes missing');
        $this->click('button', 'Apply step');
        $this->see('p', 'Recodes');
        $this->see('td', 'travel_km');
        $this->click('button', 'Fill these…');
        $this->click('button', 'Apply step');
        $this->see('p', 'No cell is missing.');
        $this->everyRequestStayedHere();
    }
}
