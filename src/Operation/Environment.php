<?php

declare(strict_types=1);

namespace App\Operation;

/** Settles where the installation keeps its data and its secret before the kernel starts. */
final class Environment
{
    /** What is read from the surroundings and handed on to workers. */
    public const NAMES = ['APP_ENV', 'DOKIMOS_DATA', 'APP_SECRET', 'DOKIMOS_DEMO', 'DOKIMOS_WORKER_MB', 'DOKIMOS_POSTGRES_HOSTS', 'TRUSTED_PROXIES', 'DATABASE_URL'];

    public static function load(string $root): void
    {
        foreach (self::NAMES as $name) {
            $value = $_SERVER[$name] ?? $_ENV[$name] ?? getenv($name);
            if (\is_string($value) && '' !== $value) {
                $_SERVER[$name] = $_ENV[$name] = $value;
            }
        }
        $_SERVER['APP_ENV'] ??= 'prod';
        $_SERVER['DOKIMOS_DATA'] ??= $root.'/var/data';
        $_SERVER['DOKIMOS_DEMO'] ??= '0';
        $_SERVER['DOKIMOS_WORKER_MB'] ??= '2048';
        $_SERVER['DOKIMOS_POSTGRES_HOSTS'] ??= '';
        $data = $_SERVER['DOKIMOS_DATA'];
        if (!is_dir($data) && !@mkdir($data, 0770, true) && !is_dir($data)) {
            throw new \RuntimeException(\sprintf('The data folder %s cannot be made. Check the permissions or set DOKIMOS_DATA.', $data));
        }
        $_SERVER['APP_SECRET'] ??= self::secret($data.'/app.secret');
        foreach (array_intersect(self::NAMES, array_keys($_SERVER)) as $name) {
            $_ENV[$name] = $_SERVER[$name];
        }
    }

    /** Made once per installation, outside the repository, readable by the owner only. */
    private static function secret(string $file): string
    {
        if (!is_file($file)) {
            // Several processes may start at once: only one of them may create it.
            $handle = @fopen($file, 'x');
            if (false !== $handle) {
                fwrite($handle, bin2hex(random_bytes(32)));
                fclose($handle);
                chmod($file, 0600);
            }
        }
        for ($i = 0; $i < 20; ++$i) {
            $secret = (string) @file_get_contents($file);
            if (64 === \strlen($secret)) {
                return $secret;
            }
            usleep(50000);
        }

        throw new \RuntimeException(\sprintf('The key file %s is damaged.', $file));
    }
}
