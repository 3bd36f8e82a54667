# frozen_string_literal: true

require "fileutils"
require "tmpdir"
require "zip"
require "xlsxtream"

# Files of people, as other programs write them.
module FilesOfPeople
  # Gone when the example ends.
  def folder_of_files = @folder_of_files ||= Dir.mktmpdir("nimble-files")

  def file_of(bytes, ending = ".csv", name: "people-#{number}")
    File.join(folder_of_files, "#{name}#{ending}").tap { |path| File.binwrite(path, bytes) }
  end

  # @param rows [Array<Array>] of the first sheet
  def workbook(rows, sheet: "People")
    path = file_of("", ".xlsx")
    File.open(path, "wb") do |io|
      Xlsxtream::Workbook.open(io) { |book| book.write_worksheet(sheet) { |page| rows.each { |row| page << row } } }
    end
    path
  end

  # @param parts [Hash{String=>String}] names to contents
  def archive(parts)
    path = file_of("", ".zip")
    Zip::OutputStream.open(path) do |zip|
      parts.each do |name, content|
        zip.put_next_entry(name)
        zip.write(content)
      end
    end
    path
  end
end

RSpec.configure do |config|
  config.include FilesOfPeople
  config.after { FileUtils.rm_rf(@folder_of_files) if @folder_of_files }
end
