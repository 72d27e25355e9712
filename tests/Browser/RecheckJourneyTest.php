<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverBy;

/** Newer records put a model to the test, a remedy is begun, and the study is told with a section left out. */
final class RecheckJourneyTest extends Journey
{
    public function testFromAVerdictToItsRemedyAndToTheDossier(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $told = self::$chrome->driver->executeAsyncScript(<<<'JS'
            const done = arguments[arguments.length - 1]
            const headers = { 'Content-Type': 'application/json', 'X-Dokimos': '1', Accept: 'application/json' }
            const variants = (await (await fetch('/api/studies/1/preparation', { headers })).json()).variants
            const body = JSON.stringify({ variantId: variants[0].id, learner: 'logistic' })
            const answer = await fetch('/api/studies/1/trials', { method: 'POST', headers, body })
            done(answer.status)
            JS);
        self::assertSame(202, $told);
        $this->open('/study/1/judgment');
        $this->see('td', 'Logistic regression', 60);
        $this->open('/study/1/decisions/recheck');
        $this->see('h2', 'Does it still hold?');
        $this->axe('no recheck yet');
        $this->click('button', 'Recheck', 12, true);
        $this->see('h2', 'moved, and moves the answers most', 60);
        $this->axe('recheck');
        $this->click('button', 'Make a trial');
        $this->see('.note', 'It is being fitted, as a trial like any other', 20);
        $this->open('/study/1/judgment');
        self::$chrome->driver->wait(60)->until(static fn ($driver): bool => 2 <= \count(
            $driver->findElements(WebDriverBy::xpath("//td[contains(normalize-space(.), 'Logistic regression')]")),
        ));

        $this->open('/study/1/decisions/dossier');
        $this->see('.say', 'sections, written from the study as it stands', 30);
        $this->see('article h2', '', 20);
        $this->axe('dossier');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('input[aria-label="Tell Reasons"]'))->click();
        $this->see('.say', '9 sections', 30);
        $this->click('button', 'Reasons');
        $this->see('article', 'Reasons is left out of the dossier.');
        $pdf = self::$chrome->driver->executeAsyncScript(<<<'JS'
            const done = arguments[arguments.length - 1]
            const answer = await fetch('/api/studies/1/dossier/file?format=pdf')
            const bytes = new Uint8Array(await answer.arrayBuffer())
            done([answer.status, String.fromCharCode(...bytes.slice(0, 5)), bytes.length])
            JS);
        \assert(\is_array($pdf));
        self::assertSame([200, '%PDF-'], [$pdf[0], $pdf[1]]);
        self::assertGreaterThan(20_000, $pdf[2]);
    }
}
