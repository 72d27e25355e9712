<?php

declare(strict_types=1);

/**
 * make first: from a clone to the demo, and from signing in to a first scored list, in a browser: once on the demo's own study, once with
 * two files of one's own. Prints seconds of the machine, and how often somebody presses something: with PAUSE seconds (4) for each to read
 * and find it, that is the time of a person. FROM=clone leaves the browser out, FROM=8090 asks a demo that runs at that port.
 */
require __DIR__.'/../vendor/autoload.php';

use App\Tests\Browser\Chrome;
use Facebook\WebDriver\WebDriverBy;
use Symfony\Component\Process\Process;

$root = dirname(__DIR__);
$pause = (float) ($_SERVER['PAUSE'] ?? 4);
$from = (string) ($_SERVER['FROM'] ?? '');
$port = is_numeric($from) ? (int) $from : Chrome::freePort();
$folder = sys_get_temp_dir().'/dokimos-first-'.getmypid();
$url = "http://127.0.0.1:$port";
$demo = null;
if (!is_numeric($from)) {
    $began = microtime(true);
    (new Process(['git', 'clone', '-q', $root, $folder.'/clone']))->mustRun();
    $cloned = microtime(true) - $began;
    $demo = new Process(['make', 'demo', "PORT=$port"], $folder.'/clone', ['DOKIMOS_DATA' => false], null, null);
    $demo->start();
    while (false === @file_get_contents($url.'/api/setup')) {
        $demo->isRunning() || exit($demo->getOutput().$demo->getErrorOutput());
        usleep(100_000);
    }
    printf("%-62s %7.1f s  (wanted 180; %.1f of it the clone)\n", 'from git clone to the demo', microtime(true) - $began, $cloned);
}

@mkdir($folder, 0770, true);
(new Process([\PHP_BINARY, 'bin/console', 'dokimos:demo:generate', '--rows=6000', "--dir=$folder"], $root))->mustRun();
$presses = 0;
$chrome = 'clone' === $from ? null : new Chrome($folder.'/downloads');
/** Waits for the text, presses it. */
$press = static function (string $css, string $text) use (&$chrome, &$presses): void {
    for ($end = microtime(true) + 90; microtime(true) < $end; usleep(50_000)) {
        try {
            if (true === $chrome?->driver->executeScript(
                'document.querySelectorAll("[data-wanted]").forEach(e => e.removeAttribute("data-wanted"));'
                .'const e = [...document.querySelectorAll(arguments[0])].find(e => e.textContent.includes(arguments[1]) && !e.disabled);'
                .'e?.setAttribute("data-wanted", ""); e?.scrollIntoView({block: "center"}); return e !== undefined',
                [$css, $text],
            )) {
                $chrome->driver->findElement(WebDriverBy::cssSelector('[data-wanted]'))->click();
                ++$presses;

                return;
            }
        } catch (Facebook\WebDriver\Exception\WebDriverException) {
            // It moved meanwhile.
        }
    }
    exit("\"$text\" never came: ".$chrome?->driver->executeScript('return document.body.innerText'));
};
$give = static function (string $id, string $file) use (&$chrome, &$presses): void {
    $place = WebDriverBy::cssSelector("[data-testid=$id]");
    for ($end = microtime(true) + 20; [] === $found = $chrome?->driver->findElements($place) ?? [];) {
        microtime(true) < $end || exit("There is no place for $file.");
        usleep(50_000);
    }
    $found[0]->sendKeys($file);
    // Choose a file, and the file.
    $presses += 2;
};
$write = static function (string $css, int $which, string $text) use (&$chrome, &$presses): void {
    $chrome?->driver->findElements(WebDriverBy::cssSelector($css))[$which]->sendKeys($text);
    ++$presses;
};
$mark = static function (string $css) use (&$chrome, &$presses): void {
    for ($end = microtime(true) + 30; microtime(true) < $end; usleep(50_000)) {
        if (true === $chrome?->driver->executeScript(
            'const e = document.querySelector(arguments[0]); e?.scrollIntoView({block: "center"}); e?.click(); return e !== null',
            [$css],
        )) {
            ++$presses;

            return;
        }
    }
    exit("$css never came.");
};
$await = static function (string $css, string $text) use (&$chrome): void {
    $end = microtime(true) + 90;
    while (true !== $chrome?->driver->executeScript(
        'return [...document.querySelectorAll(arguments[0])].some(e => e.textContent.includes(arguments[1]))',
        [$css, $text],
    )) {
        microtime(true) < $end || exit("\"$text\" never came: ".$chrome?->driver->executeScript('return document.body.innerText'));
        usleep(50_000);
    }
};
$ways = [
    'on the demo study' => static function () use ($press, $await): void {
        $press('a', 'Which visits will need a return trip?');
        $press('a', 'Trials');
        $press('button', 'Run this trial');
        $press('button', 'Judge it');
        $press('a', 'Decisions');
        $press('button', 'Score 400 records');
        $await('h1', 'scored');
    },
    'with two files of one\'s own' => static function () use ($press, $await, $give, $write, $mark, $folder): void {
        $give('new-study-file', $folder.'/visits.csv');
        $write('[role=dialog] input', 0, 'Which visits need a second one?');
        $write('[role=dialog] input', 1, 'Second visits');
        $press('[role=dialog] button', 'Read the file');
        $press('button', 'Import');
        // What is known only afterwards is no input; who forgets it is told by findings, and by a figure too good to be true.
        foreach (['parts_ordered_after', 'minutes_on_site', 'outcome'] as $late) {
            $mark("input[aria-label=\"Choose $late\"]");
        }
        $press('button', 'Change 3');
        $press('button', 'stays known as it is');
        $press('[role=menuitem]', 'is known only afterwards');
        $press('button', 'See what it does');
        $press('[role=dialog] button', 'Change 3 columns');
        $press('button, a', 'Choose target');
        $press('button', 'Choose and seal');
        $press('a', 'Trials');
        $press('button', 'Run this trial');
        $press('button', 'Judge it');
        $press('a', 'Table');
        $press('button, a', 'Import a table');
        $give('import-file', $folder.'/bookings.csv');
        $press('button', 'Import');
        $press('a', 'Decisions');
        $press('button', 'Score 400 records');
        $await('h1', 'scored');
    },
];
foreach (null === $chrome ? [] : $ways as $name => $way) {
    $chrome->driver->get($url.'/');
    $chrome->driver->manage()->deleteAllCookies();
    $chrome->driver->get($url.'/');
    $presses = 0;
    $began = microtime(true);
    $press('button', 'Sign in');
    $await('h1', 'Studies');
    $way();
    $took = microtime(true) - $began;
    printf(
        "%-62s %7.1f s  (wanted 120), %d presses: %.0f s of a person\n",
        "from signing in to a first list, $name",
        $took,
        $presses,
        $took + $presses * $pause,
    );
}
$chrome?->quit();
$demo?->signal(\SIGTERM);
$demo?->wait();
(new Process(['rm', '-rf', $folder]))->run();
