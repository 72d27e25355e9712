<?php

declare(strict_types=1);

namespace App\Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Symfony\Component\Process\Process;

/** A headless Chromium with its driver; both end with the object. */
final class Chrome
{
    private const ACTED_ON = [
        'button', 'link', 'textbox', 'searchbox', 'combobox', 'checkbox', 'radio', 'slider', 'spinbutton', 'switch', 'tab', 'menuitem',
        'option',
    ];

    public readonly RemoteWebDriver $driver;
    private readonly Process $process;
    private readonly ChromeDevToolsDriver $tools;

    public function __construct(private readonly string $downloads, int $width = 1280, int $height = 800)
    {
        $port = self::freePort();
        $this->process = new Process(['chromedriver', '--port='.$port, '--log-level=SEVERE']);
        $this->process->start();
        for ($i = 0; $i < 100 && !@fsockopen('127.0.0.1', $port); ++$i) {
            usleep(50000);
        }
        @mkdir($downloads, 0775, true);
        $options = new ChromeOptions();
        $options->addArguments([
            '--headless=new',
            '--no-sandbox',
            '--disable-dev-shm-usage',
            '--disable-gpu',
            '--disable-background-networking',
            '--disable-component-update',
            '--disable-sync',
            '--no-first-run',
            '--disable-quic',
            '--force-prefers-reduced-motion',
            "--window-size=$width,$height",
        ]);
        $options->setExperimentalOption('prefs', ['download.default_directory' => $downloads, 'download.prompt_for_download' => false]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $capabilities->setCapability('goog:loggingPrefs', ['performance' => 'ALL', 'browser' => 'ALL']);
        $this->driver = RemoteWebDriver::create('http://127.0.0.1:'.$port, $capabilities, 20000, 60000);
        $this->tools = new ChromeDevToolsDriver($this->driver);
        $this->size($width, $height);
        $this->tools->execute('Browser.setDownloadBehavior', ['behavior' => 'allow', 'downloadPath' => $downloads]);
    }

    public function size(int $width, int $height): void
    {
        $this->tools->execute(
            'Emulation.setDeviceMetricsOverride',
            ['width' => $width, 'height' => $height, 'deviceScaleFactor' => 1, 'mobile' => false],
        );
    }

    /**
     * What a screen reader is told: role and name of everything that can be acted on, in the order of the page.
     *
     * @return list<array{string, string}>
     */
    public function told(): array
    {
        $out = [];
        /** @var array{nodes: list<array{ignored: bool, role?: array{value: string}, name?: array{value: string}}>} $tree */
        $tree = $this->tools->execute('Accessibility.getFullAXTree');
        foreach ($tree['nodes'] as $node) {
            $role = $node['role']['value'] ?? '';
            if (!$node['ignored'] && \in_array($role, self::ACTED_ON, true)) {
                $out[] = [$role, trim($node['name']['value'] ?? '')];
            }
        }

        return $out;
    }

    public static function freePort(): int
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new \RuntimeException('No port is free.');
        $port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);

        return $port;
    }

    public function downloads(): string
    {
        return $this->downloads;
    }

    public function quit(): void
    {
        try {
            $this->driver->quit();
        } finally {
            $this->process->stop(2);
        }
    }
}
