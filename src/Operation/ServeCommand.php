<?php

declare(strict_types=1);

namespace App\Operation;

use App\Account\Accounts;
use App\Demo\DemoLoader;
use App\Job\Jobs;
use App\Job\PieceQueue;
use App\Job\PieceTransport;
use App\Service\Calls;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Runs the web server and the workers, starts again what ends, and stops all of it together. */
#[AsCommand('dokimos:serve', 'Run the web server and the workers until Ctrl+C')]
final class ServeCommand extends Command
{
    /** Seconds that a port may be held by what an earlier supervisor began and that is just ending. */
    private const HELD = 8.0;
    private const WEB_PROCESSES = 4;
    /** Pages are answered first, then short work, then long work. */
    private const QUICK_GIVES_WAY = 5;
    private const LONG_GIVES_WAY = 15;
    /** Seconds. */
    private const SWEEP_EVERY = 3600;
    private const DUE_EVERY = 60;

    private bool $stopping = false;
    /** @var array<int, bool> process ids whose work is still to be handed out again, and whether they ended by themselves */
    private array $left = [];
    private int $sweep = 0;
    private int $due = 0;

    public function __construct(
        private readonly Accounts $accounts,
        private readonly string $projectDirectory,
        private readonly string $dataDirectory,
        private readonly bool $demo,
        private readonly int $workerMegabytes,
        private readonly PieceQueue $queue,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('host', null, InputOption::VALUE_REQUIRED, 'Address to listen on', '127.0.0.1')
            ->addOption('port', null, InputOption::VALUE_REQUIRED, 'Port to listen on', '8080')
            ->addOption('no-web', null, InputOption::VALUE_NONE, 'Workers only, behind another web server');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $host = \is_string($input->getOption('host')) ? $input->getOption('host') : '127.0.0.1';
        $port = is_numeric($input->getOption('port')) ? (int) $input->getOption('port') : 8080;
        $web = true !== $input->getOption('no-web');
        if ($web && $this->isTaken($host, $port)) {
            $output->writeln(\sprintf(
                'Port %d is taken by another program. Choose another one, for example: make demo PORT=%d',
                $port,
                $port + 1,
            ));

            return 1;
        }
        foreach (glob($this->dataDirectory.'/workers/*.json') ?: [] as $pulse) {
            $pid = (int) basename($pulse, '.json');
            // Of workers that were ended with their supervisor; another program may have got the number of one since.
            if (!str_contains((string) @file_get_contents("/proc/$pid/cmdline"), 'messenger:consume')) {
                $this->clearAfter($pid, false);
            }
        }
        $supervisor = new Supervisor($this->projectDirectory, static fn (string $line) => $output->writeln($line), $this->clearAfter(...));
        if ($web) {
            $supervisor->add(
                'web',
                [
                    \PHP_BINARY,
                    '-d',
                    'variables_order=EGPCS',
                    '-d',
                    'opcache.enable_cli=1',
                    '-d',
                    'post_max_size=12M',
                    '-d',
                    'memory_limit=512M',
                    '-d',
                    'display_errors=0',
                    '-d',
                    'expose_php=0',
                    '-S',
                    $host.':'.$port,
                    '-t',
                    'public',
                    'public/index.php',
                ],
                ['PHP_CLI_SERVER_WORKERS' => (string) self::WEB_PROCESSES],
                self::WEB_PROCESSES,
            );
        }
        foreach (['quick' => Jobs::QUICK, 'long 1' => Jobs::LONG, 'long 2' => Jobs::LONG] as $name => $lane) {
            $supervisor->add(
                'worker '.$name,
                [
                    \PHP_BINARY,
                    '-d',
                    'memory_limit='.$this->workerMegabytes.'M',
                    ...Compiled::options(),
                    'bin/console',
                    'messenger:consume',
                    $lane,
                    '--sleep=0.2',
                    '--limit=400',
                    '--keepalive=5',
                    '--time-limit=3600',
                    '--quiet',
                ],
                [],
                0,
                Jobs::LONG === $lane ? self::LONG_GIVES_WAY : self::QUICK_GIVES_WAY,
            );
        }
        $stop = function (): void {
            $this->stopping = true;
        };
        pcntl_async_signals(true);
        pcntl_signal(\SIGINT, $stop);
        pcntl_signal(\SIGTERM, $stop);
        $supervisor->tick();
        if ($web) {
            $this->greet($output, $host, $port, $supervisor);
        }
        $this->sweep = time() + self::SWEEP_EVERY;
        $errands = new Errands($this->projectDirectory);
        while (!$this->stopping) {
            usleep(200000);
            $supervisor->tick();
            $this->handOut();
            $errands->tick();
            if (time() >= $this->due) {
                $this->due = time() + self::DUE_EVERY;
                foreach (['dokimos:due', ...Calls::areNoted($this->dataDirectory) ? ['dokimos:calls'] : []] as $command) {
                    $errands->begin($command, [\PHP_BINARY, 'bin/console', $command, '--quiet'], 50.0);
                }
            }
            if (time() >= $this->sweep) {
                $this->sweep = time() + self::SWEEP_EVERY;
                $errands->begin('sweep', [\PHP_BINARY, 'bin/console', 'dokimos:housekeeping', '--quiet'], 600.0);
            }
        }
        $output->writeln("\nStopping ...");
        $supervisor->stop();
        $output->writeln('Stopped. Nothing is lost: work that was under way goes on at the next start.');

        return 0;
    }

    private function isTaken(string $host, int $port): bool
    {
        for ($until = microtime(true) + self::HELD; false !== $taken = @fsockopen($host, $port, $code, $message, 0.5); usleep(200000)) {
            fclose($taken);
            if (microtime(true) > $until || [] === (glob($this->dataDirectory.'/workers/*.json') ?: [])) {
                return true;
            }
        }

        return false;
    }

    /** What a worker leaves that ended in the middle of its work. */
    private function clearAfter(int $pid, bool $byItself): void
    {
        @unlink($this->dataDirectory.'/workers/'.$pid.'.json');
        $this->left[$pid] = $byItself;
        $this->handOut();
    }

    private function handOut(): void
    {
        foreach ($this->left as $pid => $byItself) {
            try {
                $this->queue->release(PieceTransport::worker($pid), $byItself);
                unset($this->left[$pid]);
            } catch (\Throwable) {
                // A full disk, most likely: it is tried again, and a lease ends by itself.
                return;
            }
        }
    }

    private function greet(OutputInterface $output, string $host, int $port, Supervisor $supervisor): void
    {
        for ($i = 0; $i < 100 && !$this->stopping; ++$i) {
            if (false !== $socket = @fsockopen($host, $port, $code, $message, 0.2)) {
                fclose($socket);
                break;
            }
            usleep(100000);
            $supervisor->tick();
        }
        $output->writeln(['', \sprintf('  Dokimos is running at  http://%s:%d', $host, $port)]);
        $code = $this->accounts->setupCode();
        if ($this->demo) {
            $output->writeln(\sprintf('  Sign in as %s with %s', DemoLoader::LOGIN, DemoLoader::PASSWORD));
        } elseif (null !== $code) {
            $output->writeln(\sprintf('  Make the owner\'s account with this one-time code: %s', $code));
        }
        $output->writeln(['  Ctrl+C stops it.', '']);
    }
}
