<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use App\Demo\VisitGenerator;
use App\Tests\Fixture;
use Dokimos\Core\Validate\SplitPlan;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** The whole slice as a person walks it: with the mouse, and with the keyboard alone. */
final class JourneyTest extends Journey
{
    public function testWithTheMouse(): void
    {
        $this->open('/');
        $this->axe('sign-in');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->axe('studies');
        $this->click('a', 'Which visits will need a return trip?');
        $this->see('h1', 'Register');
        $this->click('td', 'days_ahead');
        $this->see('figure h3', '“yes”');
        $this->axe('register');
        $this->click('a', 'Rows view');
        $this->see('h1', 'Rows');
        $this->see('td', 'V100001');
        $this->axe('rows');

        $this->click('a', 'Preparation');
        $this->see('h1', 'Preparation');
        $this->click('button', 'Fill these…');
        $this->see('td', 'none lost');
        $this->axe('preparation, previewing');
        $this->click('button', 'Apply step 3');
        $this->see('h2', 'Nothing is missing any more');
        $this->click('a', 'Plan a trial');
        $this->see('h1', 'Plan trials');
        $this->axe('plan');
        $this->click('button', 'Run this trial');
        $this->click('button', 'Judge it', 60);
        $this->see('h1', 'Logistic regression');
        $this->see('figure h3', 'It ranks better than doing nothing');
        $this->axe('judgment');
        $this->click('button', 'missed');
        $this->see('h2', 'missed');
        $this->click('button', 'Open the seal…');
        $this->axe('the seal');
        $this->click('button', 'Open it');
        $this->see('p', 'The seal has been opened');
        $this->click('a', 'Standings');
        $this->see('h1', 'Standings');
        $this->see('td', 'Do nothing');
        $this->axe('standings');
        $this->click('a', 'Reasons');
        $this->see('h1', 'What matters');
        $this->see('h2', 'carry it', 60);
        $this->see('h2', 'do most together', 60);
        $this->axe('what matters');
        $this->click('a', 'One record');
        $this->see('td', 'Sums, and the chance');
        $this->click('button', 'Find changes');
        $this->see('p', 'of', 30);
        $this->axe('reasons');

        $this->open('/study/1/decisions?cutoff=0.2');
        $this->see('h2', 'columns found');
        $this->axe('batch');
        $this->click('button', 'Score 400 records');
        $this->see('h1', 'bookings, scored', 30);
        $this->see('td', 'V1000');
        $this->axe('scored');
        $this->click('button', 'Download list…');
        $this->axe('download');
        $this->click('button', 'All columns');
        $this->click('a', 'Download', 10, true);
        $downloaded = $this->downloaded();
        self::assertStringEqualsFile($this->asTheCommandLineComputes(), $downloaded);

        $this->click('a', 'Logbook');
        $this->see('td', 'Downloaded the scored list');
        $this->axe('logbook');
        $this->open('/study/1/import');
        $this->see('h2', 'Drop a file on this sheet');
        $this->axe('import');
        $this->open('/ui');
        $this->see('h1', 'Parts');
        $this->axe('parts');
        $this->everyRequestStayedHere();
    }

    public function testWithTheKeyboardAlone(): void
    {
        $this->open('/');
        $this->see('h2', 'Sign in');
        $this->tabTo('Sign in', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('h1', 'Studies');
        $this->tabTo('Which visits will need a return trip?', 'a');
        $this->press(WebDriverKeys::ENTER);
        $this->see('h1', 'Register');
        $this->tabTo('visit_id', 'tr');
        foreach (['visit_id', 'household_id', 'visit_date', 'days_ahead'] as $column) {
            $this->press('j');
            $this->see('h2', $column);
        }
        $this->press('3');
        $this->see('h1', 'Plan trials');
        $this->tabTo('Run this trial', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('button', 'Judge it', 60);
        $this->tabTo('Judge it', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('figure h3', 'It ranks');
        $this->press('n');
        $this->see('h2', 'Margin notes');
        $this->press('n');
        $this->press('?');
        $this->see('h2', 'Keys');
        $this->press(WebDriverKeys::ESCAPE);
        $this->until('the keys are closed', 'return document.querySelector("[role=dialog]") === null');
        $this->press('/');
        $this->until('the search takes words', 'return document.activeElement.matches("[role=dialog] input")');
        $this->press('days');
        $this->press(WebDriverKeys::ENTER);
        $this->see('h1', 'Register');
        $this->press('6');
        $this->see('h2', 'columns found');
        $this->tabTo('Score 400 records', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->see('h1', 'bookings, scored', 30);
        $this->see('td', 'V1000');
        $this->tabTo('Download list…', 'button');
        $this->press(WebDriverKeys::ENTER);
        $this->until('the download is offered', 'return document.activeElement.closest("[role=dialog]") !== null');
        $this->tabTo('Download', 'a', true);
        $this->press(WebDriverKeys::ENTER);
        self::assertStringStartsWith('visit_id,', $this->downloaded());
    }

    public function testFromAFindingToItsRemedyAndTheRecordsBehindIt(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->click('a', 'Which visits will find nobody at home?');
        $this->click('li a', 'Table');
        $this->see('h1', 'Register');
        $this->click('[role=tab]', 'With findings');
        $this->click('td', 'travel_km');
        $this->see('.note', 'most likely a mark for missing');
        $this->axe('findings of a column');
        $first = (string) self::$chrome->driver->executeScript('return document.querySelector(".note a").textContent');
        $this->click('.note a', $first, 12, true);
        $this->see('section h2', 'Record '.$first);
        $this->see('dd', '-1');

        $this->click('a', 'Register');
        $this->click('td', 'currency');
        $this->see('.note', 'it cannot tell anything apart');
        $this->click('.note button', 'Settle…');
        $this->press('We work in one country only.'.WebDriverKeys::ENTER);
        $this->see('.note', 'settled by Mara Kell');
        $this->click('td', 'quoted_cost');
        $this->see('.note', 'lopsided');
        $this->click('td', 'depot');
        $this->click('.note button', 'Set depot aside');
        $this->see('td', 'set aside');
        $this->click('a', 'What goes with outcome');
        $this->see('h1', 'What goes with outcome');
        $this->see('h2', 'held on records they had not seen');
        $this->axe('what goes with the target');
        $this->click('a', 'Logbook');
        $this->see('main', 'Reason: We work in one country only.');
        $this->everyRequestStayedHere();
    }

    public function testFromAPictureToTheRecordsBehindIt(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/1/table/1');
        $this->click('a', 'Pictures');
        $this->see('h1', 'Pictures');
        $this->see('h3', 'nearly say the same');
        $this->axe('what goes together');
        foreach ([
            'What is missing together' => 'records are complete',
            'What stands apart' => 'A box holds the middle half',
            'What is lopsided' => 'the most lopsided first',
            'linked' => 'Columns on a ring',
        ] as $picture => $says) {
            $this->click('nav button', $picture);
            $this->see('figure p', $says);
            $this->axe($picture);
        }
        $this->click('nav button', 'What is missing together');
        $this->see('h3', 'boiler_age is missing by');
        $this->click('td a', 'boiler_make is');
        $this->see('h1', 'Rows');
        $this->see('p', 'Records where');
        $this->see('button', 'without boiler_age');
        $this->axe('rows by condition');
        $this->open('/study/1/table/1/pictures?show=two&x=tenure&y=slot');
        $this->see('h3', 'tenure and slot');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('figure svg g g'))->click();
        $this->see('h1', 'Rows');
        $this->see('button', 'without tenure');
        $this->click('button', 'without tenure');
        $this->see('p', 'Drop one:');
        $this->everyRequestStayedHere();
    }

    public function testImportingADatabaseAndCorrectingHowAFileIsRead(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/1/import');
        $this->see('h2', 'Drop a file on this sheet');
        $file = self::$dir.'/odd dates.csv';
        file_put_contents($file, "day;km\n03/04/2025;1,5\n05/06/2025;2,5\n");
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('[data-testid=import-file]'))->sendKeys($file);
        $this->see('h1', 'Reading odd dates.csv');
        $this->click('button', 'day first');
        $this->click('[role=menuitem]', 'month first');
        $this->see('button', 'month first');
        $this->click('button', 'comma');
        $this->click('[role=menuitem]', 'point');
        $this->see('button', 'point');
        $this->click('button', 'Import', 12, true);
        $this->see('h1', 'Register', 30);
        $this->click('a', 'Rows view');
        $this->see('td', '4 Mar 2025');
        $this->see('td', '1,5');

        $this->open('/study/1/import');
        $this->see('h3', 'Or take an example from the shelf');
        $this->axe('shelf');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('button[aria-label="Take company.sqlite"]'))->click();
        $this->see('h1', 'Reading company.sqlite');
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('button[aria-label^="Table:"]'))->click();
        $this->click('[role=menuitem]', 'returned');
        $this->see('button', 'returned');
        $this->axe('reading a database');
        $this->click('button', 'Import', 12, true);
        $this->see('h1', 'Register', 30);
        $this->see('p', 'records, 25 columns');
        $this->click('button', 'Choose all 25');
        $this->click('button', 'Change 25');
        $this->see('h2', 'Change 25 columns');
        $this->axe('many columns');
    }

    public function testNoFigureIsCutAtAnyWidth(): void
    {
        $this->open('/');
        $this->click('button', 'Sign in');
        $this->see('h1', 'Studies');
        $this->open('/study/1/import');
        $this->see('h2', 'Drop a file on this sheet');
        $file = self::$dir.'/wide figures.csv';
        $lines = ['sum,change,trace,share'];
        for ($i = 0; $i < 400; ++$i) {
            $lines[] = \sprintf('%.2f,%d,%.9F,%.3F', 1e9 + 7654321.37 * $i, -10000 * ($i % 41) - $i, 1e-6 * (1 + $i % 97), ($i % 83) / 83);
        }
        file_put_contents($file, implode("\n", $lines)."\n");
        self::$chrome->driver->findElement(WebDriverBy::cssSelector('[data-testid=import-file]'))->sendKeys($file);
        $this->see('h1', 'Reading wide figures.csv');
        $this->click('button', 'Import', 12, true);
        $this->see('h1', 'Register', 30);
        $register = (string) parse_url(self::$chrome->driver->getCurrentURL(), \PHP_URL_PATH);
        try {
            foreach ([1024, 1280, 1920] as $width) {
                self::$chrome->size($width, 800);
                foreach ([
                    [$register, 'td', 'trace'],
                    [$register.'/rows', 'td', '1007654321.37'],
                    [$register.'/pictures?show=two&x=sum&y=change', 'figure text', 'sum'],
                ] as [$path, $css, $says]) {
                    $this->open($path);
                    $this->see($css, $says);
                    self::assertSame([], self::$chrome->driver->executeScript(self::CUT), $path.' at '.$width);
                }
            }
        } finally {
            self::$chrome->size(1280, 800);
        }
    }

    /** Figures wider than their cell, and words of a picture that reach beyond it. */
    private const CUT = <<<'JS'
        const cut = [...document.querySelectorAll('td.n')].filter(e => e.scrollWidth > e.clientWidth + 1 || e.textContent.includes('…'));
        for (const picture of document.querySelectorAll('main figure svg')) {
            const frame = picture.getBoundingClientRect();
            for (const e of picture.querySelectorAll('text')) {
                const at = e.getBoundingClientRect();
                if (at.width > 0 && (at.left < frame.left - 1 || at.right > frame.right + 1)) cut.push(e);
            }
        }
        return cut.map(e => e.textContent + ' in ' + Math.round(e.clientWidth));
        JS;

    private function asTheCommandLineComputes(): string
    {
        $dir = self::$dir.'/command-line';
        Fixture::console(['dokimos:demo:generate', '--rows='.self::ROWS, '--dir='.$dir]);
        $event = [];
        foreach (VisitGenerator::forPart(2026, 'visits')->truth(self::ROWS) as [, $outcome]) {
            $event[] = (float) $outcome;
        }
        $open = array_diff(array_keys($event), (new SplitPlan())->sealed($event));
        file_put_contents($dir.'/open.txt', implode("\n", array_map(static fn (int $r) => $r + 1, $open)));
        file_put_contents($dir.'/steps.json', json_encode([
            ['step' => 'set_aside', 'columns' => ['currency', 'depot', 'access_code']],
            ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median', 'mark' => true],
            ['step' => 'fill_missing', 'columns' => ['contact_channel'], 'method' => 'median'],
        ], \JSON_THROW_ON_ERROR));
        $kinds = ['--kind=boiler_class=category', '--kind=household_id=identifier', '--kind=access_code=text'];
        Fixture::console([
            'dokimos:fit',
            $dir.'/visits.csv',
            '--target=return_visit',
            '--event=yes',
            '--without=parts_ordered_after,minutes_on_site,outcome',
            '--rows='.$dir.'/open.txt',
            '--preparation='.$dir.'/steps.json',
            '--out='.$dir.'/model.json',
            '--inputs=visit_date,days_ahead,slot,district,depot,job_type,boiler_make,boiler_class,boiler_age,tenure,access_code,contact_channel,reminder_sent,past_returns,engineer_years,travel_km,quoted_cost,currency',
            ...$kinds,
        ]);
        Fixture::console([
            'dokimos:score',
            $dir.'/model.json',
            $dir.'/bookings.csv',
            '--out='.$dir.'/scored.csv',
            '--status=draft',
            '--cutoff=0.2',
            '--reasons',
        ]);

        return $dir.'/scored.csv';
    }
}
