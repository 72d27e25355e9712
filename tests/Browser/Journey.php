<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use App\Tests\Fixture;
use DAMA\DoctrineTestBundle\PHPUnit\SkipDatabaseRollback;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** A browser at an installation of its own, and what a person does with it. */
#[SkipDatabaseRollback]
abstract class Journey extends TestCase
{
    protected const ROWS = 1500;
    protected static string $dir;
    protected static string $base;
    protected static Process $server;
    protected static Chrome $chrome;

    public static function setUpBeforeClass(): void
    {
        self::$dir = sys_get_temp_dir().'/dokimos-browser-'.bin2hex(random_bytes(4));
        Fixture::copy(self::$dir);
        $port = Chrome::freePort();
        self::$base = 'http://127.0.0.1:'.$port;
        self::$server = new Process(
            [\PHP_BINARY, 'bin/console', 'dokimos:serve', '--port='.$port],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'prod', 'DOKIMOS_DEMO' => '1'] + Fixture::at(self::$dir),
            null,
            null,
        );
        self::$server->start();
        for ($i = 0; $i < 150 && false === @file_get_contents(self::$base.'/api/setup'); ++$i) {
            usleep(100000);
        }
        self::$chrome = new Chrome(self::$dir.'/downloads');
    }

    public static function tearDownAfterClass(): void
    {
        self::$chrome->quit();
        self::$server->signal(\SIGTERM);
        self::$server->wait();
        Fixture::run(['rm', '-rf', self::$dir]);
    }

    protected function setUp(): void
    {
        $this->open('/');
        self::$chrome->driver->manage()->deleteAllCookies();
    }

    protected function open(string $path): void
    {
        self::$chrome->driver->get(self::$base.$path);
    }

    protected function see(string $css, string $text, int $seconds = 12): void
    {
        $last = '';
        for ($end = microtime(true) + $seconds; microtime(true) < $end; usleep(100000)) {
            if (true === self::$chrome->driver->executeScript(
                'return [...document.querySelectorAll(arguments[0])].some(e => e.textContent.includes(arguments[1]))',
                [$css, $text],
            )) {
                return;
            }
            $last = (string) self::$chrome->driver->executeScript('return document.querySelector("main, #root")?.innerText ?? ""');
        }
        self::fail(\sprintf('"%s" did not appear in %s. The page says: %s', $text, $css, mb_substr($last, 0, 800)));
    }

    protected function click(string $css, string $text, int $seconds = 12, bool $exactly = false): void
    {
        $error = null;
        for ($end = microtime(true) + $seconds; microtime(true) < $end; usleep(150000)) {
            try {
                $found = self::$chrome->driver->executeScript(
                    'document.querySelectorAll("[data-wanted]").forEach(e => e.removeAttribute("data-wanted")); const e = [...document.querySelectorAll(arguments[0])].find(e => (arguments[2] ? e.textContent.trim() === arguments[1] : e.textContent.includes(arguments[1])) && !e.disabled); e?.setAttribute("data-wanted", "1"); const r = e?.getBoundingClientRect(); if (r && (r.bottom > innerHeight || r.top < 0)) e.scrollIntoView({block: "center"}); return e !== undefined',
                    [$css, $text, $exactly],
                );
                if (true === $found) {
                    self::$chrome->driver->findElement(WebDriverBy::cssSelector('[data-wanted]'))->click();

                    return;
                }
            } catch (\Exception $e) {
                $error = $e;
            }
        }
        self::fail(\sprintf('"%s" could not be clicked: %s', $text, $error?->getMessage() ?? 'it is not there'));
    }

    /** Waits for what a script of the page says is so. */
    protected function until(string $what, string $script): void
    {
        for ($end = microtime(true) + 12; true !== self::$chrome->driver->executeScript($script); usleep(20000)) {
            self::assertLessThan($end, microtime(true), 'Waited in vain until '.$what.'.');
        }
    }

    protected function tabTo(string $text, string $tag, bool $exactly = false): void
    {
        for ($i = 0; $i < 120; ++$i) {
            $this->press(WebDriverKeys::TAB);
            $at = self::$chrome->driver->switchTo()->activeElement();
            $words = $at->getText();
            if ($at->getTagName() === $tag && ($exactly ? trim($words) === $text : str_contains($words, $text))) {
                self::assertNotSame(
                    'none',
                    self::$chrome->driver->executeScript('return getComputedStyle(document.activeElement).outlineStyle'),
                    'the focus of '.$text.' can be seen',
                );

                return;
            }
        }
        self::fail(\sprintf('Tab never reached "%s".', $text));
    }

    protected function press(string $keys): void
    {
        self::$chrome->driver->getKeyboard()->sendKeys($keys);
    }

    protected function axe(string $view): void
    {
        $this->until(
            'nothing moves',
            'return document.getAnimations().every(a => a.playState !== "running" || a.effect.getComputedTiming().endTime === Infinity)',
        );
        self::$chrome->driver->executeScript((string) file_get_contents(\dirname(__DIR__, 2).'/web/node_modules/axe-core/axe.min.js'));
        self::$chrome->driver->manage()->timeouts()->setScriptTimeout(30);
        /** @var list<array{id: string, impact: string, nodes: list<array{html: string, failureSummary: string}>}> $violations */
        $violations = self::$chrome->driver->executeAsyncScript('const done = arguments[arguments.length - 1]; axe.run(document, {runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"], resultTypes: ["violations"]}).then(r => done(r.violations))');
        $serious = array_filter($violations, static fn (array $v) => \in_array($v['impact'], ['serious', 'critical'], true));
        self::assertSame(
            [],
            array_map(
                static fn (array $v) => $v['id'].': '.$v['nodes'][0]['html'].' '.$v['nodes'][0]['failureSummary'],
                array_values($serious),
            ),
            $view,
        );
    }

    /** The content of the CSV file that is being downloaded. */
    protected function downloaded(): string
    {
        $folder = self::$chrome->downloads();
        for ($i = 0; $i < 100; ++$i) {
            $files = glob($folder.'/*.csv') ?: [];
            if ([] !== $files && [] === (glob($folder.'/*.crdownload') ?: [])) {
                $content = (string) file_get_contents($files[0]);
                unlink($files[0]);

                return $content;
            }
            usleep(100000);
        }
        self::fail('Nothing was downloaded.');
    }

    protected function everyRequestStayedHere(): void
    {
        $hosts = [];
        foreach (self::$chrome->driver->manage()->getLog('performance') as $entry) {
            $message = json_decode($entry['message'], true)['message'] ?? [];
            if ('Network.requestWillBeSent' === ($message['method'] ?? '')) {
                $url = (string) $message['params']['request']['url'];
                if (1 === preg_match('#^(https?|wss?)://#', $url)) {
                    $hosts[(string) parse_url($url, \PHP_URL_SCHEME).'://'.parse_url($url, \PHP_URL_HOST).':'.parse_url($url, \PHP_URL_PORT)] = true;
                }
            }
        }
        self::assertSame([self::$base], array_keys($hosts));
    }
}
