<?php

declare(strict_types=1);

namespace App\Service;

/** A version as it is kept in the store, and as files of one machine that answer from it. */
final readonly class Packed
{
    public function __construct(public Package $package, public Because $because)
    {
    }

    public function written(): string
    {
        return base64_encode((string) gzdeflate(serialize($this), 3));
    }

    /** @throws \UnexpectedValueException when another release packed it */
    public static function read(string $written): self
    {
        $found = @unserialize((string) @gzinflate((string) base64_decode($written, true)));

        return $found instanceof self ? $found : throw new \UnexpectedValueException('This version was packed by another release.');
    }

    /**
     * @param string             $file    without its ending
     * @param \Closure(): string $written what the store keeps, asked where the files are not there yet
     */
    public static function answerer(string $file, \Closure $written): Answerer
    {
        if (!is_file($file.'.php') || !is_file($file.'.because')) {
            $packed = self::read($written());
            is_dir(\dirname($file)) || mkdir(\dirname($file), 0770, true);
            self::put($file.'.because', serialize($packed->because));
            self::put($file.'.php', "<?php\n\nreturn ".var_export($packed->package, true).";\n");
        }
        $package = require $file.'.php';

        return new Answerer($package instanceof Package ? $package : throw new \UnexpectedValueException(
            'The file of this version is damaged.',
        ), static function () use ($file): Because {
            $because = unserialize((string) file_get_contents($file.'.because'));

            return $because instanceof Because ? $because : throw new \UnexpectedValueException('The file of this version is damaged.');
        });
    }

    /** Whoever reads it finds all of it, or nothing yet. */
    private static function put(string $file, string $bytes): void
    {
        $part = $file.'.'.bin2hex(random_bytes(4));
        file_put_contents($part, $bytes);
        rename($part, $file);
    }
}
