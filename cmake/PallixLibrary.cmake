# How every target of the house is made: one place for warnings, sanitizers and the rule that the core knows no Qt.

add_library(pallix_options INTERFACE)
target_compile_options(pallix_options INTERFACE
  -Wall -Wextra -Wpedantic -Wshadow -Wconversion -Wnon-virtual-dtor -Woverloaded-virtual -Werror
  # GCC 12 takes text + string for overlapping copies (GCC bug 105651).
  $<$<AND:$<CXX_COMPILER_ID:GNU>,$<VERSION_LESS:$<CXX_COMPILER_VERSION>,13>>:-Wno-restrict>
  $<$<CXX_COMPILER_ID:GNU>:-fpch-preprocess>) # ccache asks for it
# A null pointer that is followed ends under the address sanitizer too; checking each one triples the build.
set(PALLIX_UNCHECKED -fno-sanitize=null,alignment,object-size,vptr)
if(PALLIX_SANITIZE)
  target_compile_options(pallix_options INTERFACE -fsanitize=address,undefined ${PALLIX_UNCHECKED}
    -fno-sanitize-recover=undefined -fno-omit-frame-pointer) # a test in which something is undefined fails
  target_link_options(pallix_options INTERFACE -fsanitize=address,undefined)
  target_compile_options(pallix_options INTERFACE -Wno-maybe-uninitialized -Wno-array-bounds) # GCC 12 sees ghosts once they are in
  target_compile_options(pallix_options INTERFACE -Wno-shadow) # batches are larger here, and hold what files call their own
endif()
if(PALLIX_SANITIZE_THREADS)
  target_compile_options(pallix_options INTERFACE -fsanitize=thread -fno-omit-frame-pointer -Wno-tsan
    -Wno-maybe-uninitialized) # which GCC 12 sees without reason once it is in
  target_link_options(pallix_options INTERFACE -fsanitize=thread)
endif()
if(PALLIX_FUZZ)
  target_compile_options(pallix_options INTERFACE -fsanitize=fuzzer-no-link,address,undefined ${PALLIX_UNCHECKED} -fno-sanitize-recover=all)
  target_link_options(pallix_options INTERFACE -fsanitize=address,undefined)
endif()
find_program(PALLIX_LLD ld.lld)
if(PALLIX_LLD)
  target_link_options(pallix_options INTERFACE -fuse-ld=lld)
endif()

set(PALLIX_QT_DEFINITIONS QT_NO_KEYWORDS QT_NO_CAST_TO_ASCII QT_NO_FOREACH)

# Headers of others that nearly every file of a kind begins with are compiled once for all its targets. Only headers that
# never change: touching one of ours must not compile everything anew.
function(pallix_precompiled kind)
  cmake_parse_arguments(ARG "" "" "HEADERS;LIBRARIES;DEFINITIONS" ${ARGN})
  set(empty ${PROJECT_BINARY_DIR}/precompiled_${kind}.cpp)
  if(NOT EXISTS ${empty})
    file(WRITE ${empty} "")
  endif()
  add_library(pallix_precompiled_${kind} OBJECT ${empty})
  target_link_libraries(pallix_precompiled_${kind} PRIVATE ${ARG_LIBRARIES} pallix_options)
  target_compile_definitions(pallix_precompiled_${kind} PRIVATE ${ARG_DEFINITIONS})
  target_precompile_headers(pallix_precompiled_${kind} PRIVATE ${ARG_HEADERS})
endfunction()
set(PALLIX_STANDARD_HEADERS <algorithm> <array> <charconv> <cmath> <functional> <limits> <map> <memory> <numbers> <optional> <ranges>
  <span> <string> <string_view> <tuple> <variant> <vector> <tl/expected.hpp>)

# pallix_library(NAME SOURCES... USES public libraries... HIDES private libraries...)
# PRECOMPILED names one of the above.
function(pallix_library name)
  cmake_parse_arguments(ARG "QT" "PRECOMPILED" "SOURCES;USES;HIDES" ${ARGN})
  add_library(${name} STATIC ${ARG_SOURCES})
  target_include_directories(${name} PUBLIC ${PROJECT_SOURCE_DIR}/src)
  target_link_libraries(${name} PUBLIC ${ARG_USES} PRIVATE ${ARG_HIDES} pallix_options)
  if(ARG_QT)
    set_target_properties(${name} PROPERTIES AUTOMOC ON AUTORCC ON)
    target_compile_definitions(${name} PRIVATE ${PALLIX_QT_DEFINITIONS})
  endif()
  if(ARG_PRECOMPILED)
    target_precompile_headers(${name} REUSE_FROM pallix_precompiled_${ARG_PRECOMPILED})
  endif()
endfunction()

# A C library that ships no CMake or pkg-config file.
function(pallix_find_plain_library target header library)
  string(MAKE_C_IDENTIFIER "PALLIX_${library}" prefix)
  find_path(${prefix}_INCLUDE ${header} REQUIRED)
  find_library(${prefix}_LIBRARY ${library} REQUIRED)
  add_library(${target} INTERFACE IMPORTED)
  set_target_properties(${target} PROPERTIES
    INTERFACE_INCLUDE_DIRECTORIES ${${prefix}_INCLUDE} INTERFACE_LINK_LIBRARIES ${${prefix}_LIBRARY})
endfunction()

# A library that ships pkg-config files, of which one may name a folder that is not there.
function(pallix_find_packaged_library target)
  string(MAKE_C_IDENTIFIER "PALLIX_${target}" packaged)
  pkg_check_modules(${packaged} REQUIRED ${ARGN})
  set(folders)
  foreach(folder IN LISTS ${packaged}_INCLUDE_DIRS)
    if(EXISTS ${folder})
      list(APPEND folders ${folder})
    endif()
  endforeach()
  add_library(${target} INTERFACE IMPORTED GLOBAL)
  set_target_properties(${target} PROPERTIES
    INTERFACE_INCLUDE_DIRECTORIES "${folders}" INTERFACE_LINK_LIBRARIES "${${packaged}_LINK_LIBRARIES}")
endfunction()

# Collects what a target links, directly or through others.
function(pallix_collect_links target seen_variable)
  set(seen ${${seen_variable}})
  if(target IN_LIST seen OR NOT TARGET ${target})
    return()
  endif()
  list(APPEND seen ${target})
  foreach(property LINK_LIBRARIES INTERFACE_LINK_LIBRARIES)
    get_target_property(links ${target} ${property})
    if(links)
      foreach(link IN LISTS links)
        string(REGEX REPLACE "^\\$<LINK_ONLY:(.*)>$" "\\1" link "${link}")
        pallix_collect_links("${link}" seen)
      endforeach()
    endif()
  endforeach()
  set(${seen_variable} ${seen} PARENT_SCOPE)
endfunction()

# Stops the configuration when a core library reaches Qt by any way: without the target there is no include path.
function(pallix_check_core_is_free_of_qt)
  foreach(core IN LISTS ARGN)
    set(links)
    pallix_collect_links(${core} links)
    foreach(link IN LISTS links)
      if(link MATCHES "^Qt[0-9]*::")
        message(FATAL_ERROR "${core} is part of the core and must not link Qt, but it reaches ${link}.")
      endif()
    endforeach()
    get_target_property(moc ${core} AUTOMOC)
    if(moc)
      message(FATAL_ERROR "${core} is part of the core and must not use moc.")
    endif()
  endforeach()
endfunction()

# Under a sanitizer, where nothing else is optimized, what reckons by templates takes fifty times as long.
function(pallix_optimize_under_sanitizers name)
  if(PALLIX_SANITIZE OR PALLIX_SANITIZE_THREADS)
    target_compile_options(${name} PRIVATE -O1)
    set_target_properties(${name} PROPERTIES DISABLE_PRECOMPILE_HEADERS ON) # which are not compiled so
  endif()
endfunction()

# The same of single files, which then stand outside the batches of their library.
function(pallix_optimize_files_under_sanitizers)
  if(PALLIX_SANITIZE OR PALLIX_SANITIZE_THREADS)
    set_source_files_properties(${ARGN} PROPERTIES COMPILE_OPTIONS -O1 SKIP_PRECOMPILE_HEADERS ON
      SKIP_UNITY_BUILD_INCLUSION ON)
  endif()
endfunction()
