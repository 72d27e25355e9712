<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** Several learners at once, a search, and a guided search, each to what it hands over. */
final class SearchJourneyTest extends Journey
{
    public function testSeveralAtOnceASearchThatIsWidenedAndAGuidedSearchByKeyboard(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        // Words of the note make every fit slow; they are tried elsewhere.
        self::$chrome->driver->executeAsyncScript('const done = arguments[0]; (async () => { const table = await (await fetch("/api/tables/1")).json();'
            .' const note = table.columns.find(c => c.name === "booking_note"); const body = JSON.stringify({use: "set aside"});'
            .' await fetch(`/api/columns/${note.id}`, {method: "PATCH", headers: {"Content-Type": "application/json", "If-Match": String(note.version)}, body}); done(); })()');
        $this->open('/study/1/trials');
        $this->click('td.nm label', 'Decision tree');
        $this->click('button', 'Run 2 trials');
        $this->see('h1', 'Standings');
        $this->see('p', 'Price of clarity', 120);
        $this->axe('standings with finalists');
        self::$chrome->driver->executeScript('document.querySelectorAll("input[aria-label^=\'Take trial\']").forEach((b, i) => i < 2 && b.click())');
        $this->click('button', '2 side by side');
        $this->see('h1', 'Two trials');
        $this->click('button', 'Records they part on');
        $this->see('th', 'Came');
        $this->axe('trials side by side');

        $this->open('/study/1/trials?learner=tree');
        $this->click('button[aria-label="Questions in a row, at most, how: fixed"]', 'fixed');
        $this->click('li', 'list');
        $this->click('button', 'Weigh 3 settings');
        $this->see('h1', 'Search 1');
        $this->see('p', 'with its luck taken out', 120);
        $this->axe('a search');

        $this->open('/study/1/trials');
        $this->tabTo('Start the guided search, 10 min', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('h1', 'Guided search 2');
        $this->see('button', 'Stop and keep the best', 180);
        $this->axe('a guided search under way');
        $this->tabTo('Stop and keep the best', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('a', 'See its finalists', 180);
        $this->axe('a guided search');
        $this->click('a', 'See its finalists');
        $this->see('h2', 'of AUC', 120);
    }
}
