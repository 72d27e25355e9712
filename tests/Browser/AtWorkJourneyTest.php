<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** A model is approved by name, opened as a service, asked from the form, and called as another program would. */
final class AtWorkJourneyTest extends Journey
{
    private function write(string $css, string $text): void
    {
        $field = self::$chrome->driver->findElement(WebDriverBy::cssSelector($css));
        $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $field->sendKeys($text);
        $field->sendKeys(WebDriverKeys::TAB);
    }

    public function testFromApprovalToACall(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/2/decisions/service');
        $this->see('.say', 'No model is approved for use');
        $this->axe('no service yet');
        $this->click('button', 'Approve a model…');
        $this->see('h2', 'Approve a model for use');
        self::$chrome->driver->findElement(
            WebDriverBy::xpath("//label[starts-with(normalize-space(.),'Why it may')]/following::textarea[1]"),
        )->sendKeys('Examined on rows it had not seen.');
        self::$chrome->driver->findElement(
            WebDriverBy::xpath("//label[starts-with(normalize-space(.),'What it is not')]/following::textarea[1]"),
        )->sendKeys('Anything but dispatch.');
        $this->axe('approval');
        $this->click('button', 'Approve', 12, true);
        $this->see('.say', 'A model is approved', 30);
        $this->write('[aria-label="Name of the service"]', 'nobody-home');
        $this->click('button', 'Open it');
        $this->see('.say', 'It answers; nobody has called yet.', 30);
        $this->axe('service');
        $this->click('button', 'Ask version 1');
        $this->see('h2', 'Version 1: ', 20);
        $this->see('.sentence', 'in 100');

        // A token is shown once; with it the printed address answers a real call, which is then counted.
        $this->click('button', 'New token…');
        $this->write('[aria-label="Who calls"]', 'Night batch');
        $this->click('button', 'Make it');
        $this->see('h3', 'Copy it now', 20);
        $told = self::$chrome->driver->executeAsyncScript(<<<'JS'
            const done = arguments[arguments.length - 1]
            const token = document.querySelector('.note code').textContent
            const services = await (await fetch('/api/studies/2/services')).json()
            const headers = { Authorization: 'Bearer ' + token }
            const answer = await fetch(services[0].path, { method: 'POST', headers, body: JSON.stringify(services[0].example) })
            done([answer.status, await answer.json()])
            JS);
        \assert(\is_array($told) && \is_array($told[1]));
        self::assertSame(200, $told[0], (string) json_encode($told));
        self::assertSame(1, $told[1]['version']);
        $this->open('/study/2/decisions/service');
        $this->see('.say', 'It answers: 1 call');

        // The model leaves as a file with its proof.
        $this->open('/study/2/decisions/away');
        $this->see('h2', 'Forms of');
        $this->axe('take away');
        $this->click('tr', 'JSON');
        self::$chrome->driver->executeScript(
            '[...document.querySelectorAll("tr")].find(r => r.textContent.includes("JSON")).querySelector("button").click()',
        );
        $this->see('td', 'its answers are the same', 40);

        // And scores where the data lie, in the company database that ships with the app.
        $this->write('[aria-label="New table"]', 'scored_'.bin2hex(random_bytes(3)));
        $this->write('[aria-label="Columns carried along"]', 'visit_id');
        $this->click('button', 'Score it there');
        $this->see('h3', 'records in scored_', 60);
        $this->see('.note', 'its answers are the same');
        $this->axe('scored inside');
    }
}
